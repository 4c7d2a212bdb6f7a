#include "ui/context.h"

#include "core/base/no_number.h"
#include "core/signal_path/chain.h"

#include <QFileDialog>

#include <algorithm>
#include <cmath>
#include <utility>

namespace cognitum {

Context::Context(Session& session, Theme& theme, QObject* parent)
    : QObject(parent), m_session(session), m_theme(theme), m_desktop_dark(desktop_was_dark()) {
    askSavePath = [](QWidget* asking, const QString& title, const QString& name, const QString& filter) {
        return QFileDialog::getSaveFileName(asking, title, name, filter);
    };
    askOpenPath = [](QWidget* asking, const QString& title, const QString& filter) {
        return QFileDialog::getOpenFileName(asking, title, {}, filter);
    };
    m_timer.setInterval(50);
    connect(&m_timer, &QTimer::timeout, this, &Context::tick);
    m_timer.start();
    connect(&session, &Session::planChanged, this, &Context::refresh);
    connect(&session, &Session::logChanged, this, &Context::refreshed);
    connect(&session, &Session::benchOpened, this, [this] {
        const auto& readings = m_session.bench().readings;
        m_reading = readings.empty() ? std::string() : readings.front().id;
        refresh();
        emit selectionChanged();
    });
}

void Context::change(const std::function<void(Settings&)>& by) {
    Settings changed = m_settings;
    by(changed);
    if (changed == m_settings) return;
    // What was asked for this start alone (--dark, --scale) stays when something else is chosen.
    const bool looks = changed.appearance != m_settings.appearance || changed.scale != m_settings.scale;
    m_settings = changed;
    m_settings.save();
    if (looks) m_theme.follow(m_settings, m_desktop_dark);
    emit settingsChanged();
    emit refreshed();
}

QString Context::beside(const Reading& reading, double value, double doubt) const {
    if (reading.quantity.about().is_state()) return {};
    return QString::fromStdString(cognitum::beside(value, doubt, reading.quantity.unit, m_settings.beside));
}

void Context::desktopIsDark(bool dark) {
    m_desktop_dark = dark;
    remember_desktop_dark(dark);
    m_theme.follow(m_settings, dark);
}

const Reading* Context::reading() const {
    return m_session.bench().reading(m_reading);
}

void Context::selectReading(const std::string& id) {
    if (id == m_reading) return;
    m_reading = id;
    refresh();
    emit selectionChanged();
}

const LiveReading* Context::liveReading() const {
    const auto found = m_live.readings.find(m_reading);
    return found == m_live.readings.end() ? nullptr : &found->second;
}

const LiveBoard* Context::liveBoard() const {
    const Reading* r = reading();
    const auto found = r ? m_live.boards.find(r->feed()) : m_live.boards.end();
    return found == m_live.boards.end() ? nullptr : &found->second;
}

const PathState& Context::state(const std::string& id) const {
    static const PathState none;
    const auto found = m_states.find(id);
    return found == m_states.end() ? none : found->second;
}

void Context::setSeen(bool seen) {
    if (seen == m_seen) return;
    m_seen = seen;
    if (seen) {
        m_timer.start();
        refresh();
    } else {
        m_timer.stop();
    }
}

/// Of what the chosen reading says last. Its board counts lines of others as well.
std::uint64_t Context::chosenRevision() const {
    const LiveReading* now = liveReading();
    return now ? now->revision : 0;
}

void Context::tick() {
    // Ages grow even when nothing arrives; what is not about the chosen reading may be a second late.
    if (m_session.now() / second_us != m_last_second) return refresh();
    if (m_session.worker().liveRevision() == m_live.revision) return;
    m_session.worker().pull(m_live);
    if (m_live.log_revision != m_log_revision) return refresh();
    const std::uint64_t chosen = chosenRevision();
    if (std::exchange(m_chosen_revision, chosen) == chosen) return;
    if (const Reading* r = reading()) workOut(*r);
    emit refreshed();
}

void Context::refresh() {
    m_session.worker().pull(m_live);
    m_last_second = m_session.now() / second_us;
    if (!reading() && !m_session.bench().readings.empty()) m_reading = m_session.bench().readings.front().id;
    m_chosen_revision = chosenRevision();
    m_states.clear();
    m_findings.clear();
    m_budget = {};
    for (const Reading& r : m_session.bench().readings)
        workOut(r);
    if (m_live.log_revision != m_log_revision) {
        m_log_revision = m_live.log_revision;
        emit m_session.logChanged();
    }
    emit refreshed();
}

void Context::workOut(const Reading& r) {
    std::vector<Finding> findings = m_session.views().findings(r, m_live);
    m_states[r.id] = path_state(m_session, r, m_live, findings);
    if (r.id != m_reading) return;
    m_findings = std::move(findings);
    m_budget = {};
    const LiveReading* now = liveReading();
    double raw = now && now->value.ok() ? now->raw : no_number;
    if (!std::isfinite(raw) && !r.path.stages.empty())
        raw = inverse(effective_path(r), (r.quantity.low + r.quantity.high) / 2).number;
    if (std::isfinite(raw)) m_budget = m_session.views().budget(r, raw, m_live);
}

} // namespace cognitum
