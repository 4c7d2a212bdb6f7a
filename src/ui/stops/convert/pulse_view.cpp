#include "ui/stops/convert/pulse_view.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "core/watch/bands.h"
#include "ui/stops/convert/pulse_drawing.h"
#include "ui/widgets/parts.h"

#include <QComboBox>
#include <QGridLayout>
#include <QTimeZone>
#include <QVBoxLayout>
#include <cmath>

namespace cognitum {

PulseView::PulseView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("pulseView"));
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(12));
    m_rain = new QWidget;
    auto* row = make_row(m_rain, theme.px(8));
    const auto choice = [&](const QString& text, const char* name,
                            const std::vector<std::pair<QString, int>>& items) {
        row->addWidget(new TextLabel(theme, TextLabel::Role::body, text));
        auto* out = new QComboBox;
        out->setObjectName(QLatin1String(name));
        out->setAccessibleName(text);
        for (const auto& [label, value] : items)
            out->addItem(label, value);
        connect(out, &QComboBox::activated, this, [this] {
            m_second = 0;
            m_context.refresh();
        });
        row->addWidget(out);
        return out;
    };
    m_day = choice(tr("A day begins at"), "rainDay", {{tr("midnight"), 0}, {tr("09:00"), 9}});
    m_contact = choice(tr("the contact closes"), "rainContact",
                       {{tr("once for each tip"), 1}, {tr("once for two tips"), 2}});
    row->addStretch(1);
    box->addWidget(m_rain);
    m_drawing = new PulseDrawing(theme);
    box->addWidget(m_drawing);
    m_grid = new QGridLayout;
    m_grid->setHorizontalSpacing(theme.px(20));
    m_grid->setVerticalSpacing(theme.px(10));
    m_grid->setColumnStretch(2, 1);
    box->addLayout(m_grid);
    box->addStretch(1);
}

bool PulseView::knows(const Reading& r) {
    const Events events = r.quantity.about().events;
    return events != Events::none && (events != Events::beats || !r.source.signal.empty());
}

PulseView::Sums PulseView::sums(const Reading& r, const std::vector<RawSample>& recorded) const {
    const Session& session = m_context.session();
    const Live& live = m_context.live();
    const TimeUs now = session.now();
    const QuantityKind& kind = r.quantity.about();
    if (kind.events == Events::beats) {
        const std::vector<RawSample> wave = session.views().rawSamples(r, live);
        return {beat_facts(wave), beats_picture(wave)};
    }
    if (kind.events == Events::tips) {
        std::vector<TimeUs> times;
        std::vector<double> counts;
        for (const RawSample& s : session.views().withLive(recorded, r, now - 31 * day_us, live)) {
            if (!std::isfinite(s.code)) continue;
            times.push_back(s.time);
            counts.push_back(s.code);
        }
        RainOptions options;
        options.day_start = m_day->currentData().toInt() * hour_us;
        options.tips_per_pulse = m_contact->currentData().toInt();
        options.zone = QDateTime::fromMSecsSinceEpoch(now / 1000).offsetFromUtc() * second_us;
        const std::vector<TimeUs> tips = tips_of_counts(times, counts);
        const double mm = std::abs(slope(r.path, 100));
        return {rain_facts(tips, mm, now, options), tips_picture(tips, mm, now, options)};
    }
    if (kind.events == Events::turns) {
        std::vector<RawSample> speeds;
        const auto known = live.readings.find(r.id);
        if (known != live.readings.end())
            for (const LivePoint& p : known->second.points)
                speeds.push_back({p.time, p.value});
        return {wind_facts(speeds, r.quantity.unit),
                wind_picture(speeds, r.quantity.unit, silent_after_s(r.quantity))};
    }
    const std::vector<RawSample> line = session.views().withLive(recorded, r, now - day_us, live);
    return {switch_facts(line, now, kind.rest_s),
            switch_picture(line, now, kind.rest_s, 3600, silent_after_s(r.quantity))};
}

void PulseView::show(const Reading& reading) {
    const TimeUs now = m_context.session().now();
    if (now / second_us == m_second && reading.id == m_reading) return; // sums over days need no more than that
    m_second = now / second_us;
    m_reading = reading.id;
    m_rain->setVisible(reading.quantity.about().events == Events::tips);
    const Events events = reading.quantity.about().events;
    if (events == Events::beats || events == Events::turns) return showSums(sums(reading, {}));
    const TimeUs since = now - (events == Events::tips ? 31 : 1) * day_us;
    m_question.ask(
        m_context.session().archive(), this,
        [id = reading.id, since, now](BenchFile& file) { return recorded_raw(file, id, since, now); },
        [this, id = reading.id](const Result<std::vector<RawSample>>& recorded) {
            const Reading* r = m_context.session().bench().reading(id);
            if (!r || id != m_reading) return;
            // Without what was recorded a sum would be too small, and look right.
            if (!recorded)
                showSums({{{phrase("Recorded"), "—", recorded.error().text()}}, {}});
            else
                showSums(sums(*r, *recorded));
        });
}

void PulseView::showSums(const Sums& shown) {
    m_drawing->show(shown.picture);
    const std::vector<PulseFact>& rows = shown.facts;
    Theme& theme = m_context.theme();
    if (m_grid->count() != static_cast<int>(3 * rows.size())) {
        clear_layout(m_grid);
        for (std::size_t i = 0; i < rows.size(); ++i) {
            m_grid->addWidget(new TextLabel(theme, TextLabel::Role::body), static_cast<int>(i), 0, Qt::AlignTop);
            auto* value = new TextLabel(theme, TextLabel::Role::mono);
            value->setObjectName(QStringLiteral("pulse%1").arg(i));
            m_grid->addWidget(value, static_cast<int>(i), 1, Qt::AlignRight | Qt::AlignTop);
            auto* note = new TextLabel(theme, TextLabel::Role::soft);
            note->setWordWrap(true);
            m_grid->addWidget(note, static_cast<int>(i), 2);
        }
    }
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const auto cell = [&](int column) {
            return qobject_cast<QLabel*>(m_grid->itemAtPosition(static_cast<int>(i), column)->widget());
        };
        set_text(cell(0), from_std(rows[i].label));
        set_text(cell(1), from_std(rows[i].value));
        set_text(cell(2), from_std(rows[i].note));
    }
}

} // namespace cognitum
