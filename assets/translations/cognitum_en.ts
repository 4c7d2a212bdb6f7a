<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="en" sourcelanguage="en">
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
    <name>cognitum::SessionsPage</name>
    <message numerus="yes">
        <source>%n session(s)</source>
        <translation>
            <numerusform>%n session</numerusform>
            <numerusform>%n sessions</numerusform>
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
        <source>The first %n row(s): %1 good</source>
        <translation>
            <numerusform>The first row: %1 good</numerusform>
            <numerusform>The first %n rows: %1 good</numerusform>
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
    <name>cognitum::Session</name>
    <message numerus="yes">
        <source>%n sample(s) that could not be saved before are in the bench now.</source>
        <translation>
            <numerusform>%n sample that could not be saved before is in the bench now.</numerusform>
            <numerusform>%n samples that could not be saved before are in the bench now.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n row(s) from %1, %2 set aside.</source>
        <translation>
            <numerusform>%n row from %1, %2 set aside.</numerusform>
            <numerusform>%n rows from %1, %2 set aside.</numerusform>
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
    <name>cognitum::BoardDrawing</name>
    <message numerus="yes">
        <source>%n pin(s) free</source>
        <translation>
            <numerusform>%n pin free</numerusform>
            <numerusform>%n pins free</numerusform>
        </translation>
    </message>
</context>
</TS>
