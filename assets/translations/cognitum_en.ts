<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="en" sourcelanguage="en">
<context>
    <name>RecentBench</name>
    <message numerus="yes">
        <source>%n reading(s)</source>
        <translation>
            <numerusform>%n reading</numerusform>
            <numerusform>%n readings</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::BoardDrawing</name>
    <message numerus="yes">
        <source>%n pin(s) free</source>
        <translation>
            <numerusform>%n pin free</numerusform>
            <numerusform>%n pins free</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::CalibrationHistory</name>
    <message numerus="yes">
        <source>%n point(s), %1, %2%3</source>
        <translation>
            <numerusform>%n point, %1, %2%3</numerusform>
            <numerusform>%n points, %1, %2%3</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::FindingsPage</name>
    <message numerus="yes">
        <source>%n thing(s) to mend</source>
        <translation>
            <numerusform>one thing to mend</numerusform>
            <numerusform>%n things to mend</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::HistoryPlot</name>
    <message numerus="yes">
        <source> · %n value(s), %1…%2</source>
        <translation>
            <numerusform> · %n value, %1…%2</numerusform>
            <numerusform> · %n values, %1…%2</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::ImportDialog</name>
    <message numerus="yes">
        <source>The first %n row(s): %1 good</source>
        <translation>
            <numerusform>The first row: %1 good</numerusform>
            <numerusform>The first %n rows: %1 good</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>It begins with %n sample(s)</source>
        <translation>
            <numerusform>It begins with one sample</numerusform>
            <numerusform>It begins with %n samples</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n row(s) taken.</source>
        <translation>
            <numerusform>%n row taken.</numerusform>
            <numerusform>%n rows taken.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n row(s) taken</source>
        <translation>
            <numerusform>%n row taken</numerusform>
            <numerusform>%n rows taken</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source> into %n reading(s), %1 set aside.</source>
        <translation>
            <numerusform> into %n reading, %1 set aside.</numerusform>
            <numerusform> into %n readings, %1 set aside.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::Ingest</name>
    <message numerus="yes">
        <source> %n sample(s) could not be kept any more.</source>
        <translation>
            <numerusform> %n sample could not be kept any more.</numerusform>
            <numerusform> %n samples could not be kept any more.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n sample(s) could not be saved in %1</source>
        <translation>
            <numerusform>%n sample could not be saved in %1</numerusform>
            <numerusform>%n samples could not be saved in %1</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::MainWindow</name>
    <message numerus="yes">
        <source>the export lacks %n sample(s) of %1 from %2 to %3, which cannot be read.</source>
        <translation>
            <numerusform>the export lacks %n sample of %1 from %2 to %3, which cannot be read.</numerusform>
            <numerusform>the export lacks %n samples of %1 from %2 to %3, which cannot be read.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source> %n more stretch(es) as well.</source>
        <translation>
            <numerusform> %n more stretch as well.</numerusform>
            <numerusform> %n more stretches as well.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::NavigationRail</name>
    <message numerus="yes">
        <source>%n board(s)</source>
        <translation>
            <numerusform>%n board</numerusform>
            <numerusform>%n boards</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::OverviewPage</name>
    <message numerus="yes">
        <source>Show the %n that are hidden</source>
        <translation>
            <numerusform>Show the %n that are hidden</numerusform>
            <numerusform>Show the %n that are hidden</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::RatesView</name>
    <message numerus="yes">
        <source>%n reading(s) make %1 over %2.</source>
        <translation>
            <numerusform>%n reading makes %1 over %2.</numerusform>
            <numerusform>%n readings make %1 over %2.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::RawLines</name>
    <message numerus="yes">
        <source>%n line(s) written to %1.</source>
        <translation>
            <numerusform>%n line written to %1.</numerusform>
            <numerusform>%n lines written to %1.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::RawSide</name>
    <message numerus="yes">
        <source>%n tap(s)</source>
        <translation>
            <numerusform>%n tap</numerusform>
            <numerusform>%n taps</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n tap(s); go on</source>
        <translation>
            <numerusform>%n tap; go on</numerusform>
            <numerusform>%n taps; go on</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::ReadView</name>
    <message numerus="yes">
        <source>%1 · %n line(s)</source>
        <translation>
            <numerusform>%1 · %n line</numerusform>
            <numerusform>%1 · %n lines</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n thing(s) to look at</source>
        <translation>
            <numerusform>One thing to look at</numerusform>
            <numerusform>%n things to look at</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::RuleDialog</name>
    <message numerus="yes">
        <source>In what was recorded there are %n, the last one %1, %2 long.</source>
        <translation>
            <numerusform>In what was recorded there is one, %1, %2 long.</numerusform>
            <numerusform>In what was recorded there are %n, the last one %1, %2 long.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n session(s) added.</source>
        <translation>
            <numerusform>%n session added.</numerusform>
            <numerusform>%n sessions added.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::SensorPage</name>
    <message numerus="yes">
        <source> And %n more.</source>
        <translation>
            <numerusform> And %n more.</numerusform>
            <numerusform> And %n more.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::SessionsPage</name>
    <message numerus="yes">
        <source>%n under way</source>
        <translation>
            <numerusform>%n under way</numerusform>
            <numerusform>%n under way</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n session(s)</source>
        <translation>
            <numerusform>%n session</numerusform>
            <numerusform>%n sessions</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::SettingsPage</name>
    <message numerus="yes">
        <source>The desktop’s secret service forgets %n place(s).</source>
        <translation>
            <numerusform>The desktop’s secret service forgets one broker.</numerusform>
            <numerusform>The desktop’s secret service forgets %n brokers.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::StatusLine</name>
    <message numerus="yes">
        <source>%n sample(s) wait in memory: %1</source>
        <translation>
            <numerusform>%n sample waits in memory: %1</numerusform>
            <numerusform>%n samples wait in memory: %1</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>cognitum::WatchPage</name>
    <message numerus="yes">
        <source>%n time(s)</source>
        <translation>
            <numerusform>once</numerusform>
            <numerusform>%n times</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>core</name>
    <message numerus="yes">
        <source>{} times</source>
        <translation>
            <numerusform>{} time</numerusform>
            <numerusform>{} times</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Its clock keeps pace within {} millionths</source>
        <translation>
            <numerusform>Its clock keeps pace within {} millionth</numerusform>
            <numerusform>Its clock keeps pace within {} millionths</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Only {} pairs: too few for a statement.</source>
        <translation>
            <numerusform>Only {} pair: too few for a statement.</numerusform>
            <numerusform>Only {} pairs: too few for a statement.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{} points only carry the simplest correction.</source>
        <translation>
            <numerusform>{} point can only carry the simplest correction.</numerusform>
            <numerusform>{} points only carry the simplest correction.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{} wires</source>
        <translation>
            <numerusform>{} wire</numerusform>
            <numerusform>{} wires</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>, {} resistors</source>
        <translation>
            <numerusform>, {} resistor</numerusform>
            <numerusform>, {} resistors</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>It lives on its data wire alone, with {} probes on the bus and {} of wire.</source>
        <translation>
            <numerusform>It lives on its data wire alone, with {} probe on the bus and {} of wire.</numerusform>
            <numerusform>It lives on its data wire alone, with {} probes on the bus and {} of wire.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{1} has {0} analog inputs, and all are taken.</source>
        <translation>
            <numerusform>{1} has {0} analog input, and it is taken.</numerusform>
            <numerusform>{1} has {0} analog inputs, and all are taken.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{} beats</source>
        <translation>
            <numerusform>{} beat</numerusform>
            <numerusform>{} beats</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{} intervals</source>
        <translation>
            <numerusform>{} interval</numerusform>
            <numerusform>{} intervals</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{} tips</source>
        <translation>
            <numerusform>{} tip</numerusform>
            <numerusform>{} tips</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{} bounces</source>
        <translation>
            <numerusform>{} bounce</numerusform>
            <numerusform>{} bounces</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{} events</source>
        <translation>
            <numerusform>{} event</numerusform>
            <numerusform>{} events</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{} rows from {}, {} set aside.</source>
        <translation>
            <numerusform>{} row from {}, {} set aside.</numerusform>
            <numerusform>{} rows from {}, {} set aside.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>{} samples that could not be saved before are in the bench now.</source>
        <translation>
            <numerusform>{} sample that could not be saved before is in the bench now.</numerusform>
            <numerusform>{} samples that could not be saved before are in the bench now.</numerusform>
        </translation>
    </message>
</context>
</TS>
