// What a link has beside its place: the frame of a port and its reset line, topics and certificate of a broker, the
// pace of a replay. Folded away until it is asked for.
#pragma once

#include "core/bench/link_plan.h"
#include "ui/theme.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QStackedWidget>

namespace cognitum {

class LinkMore : public QStackedWidget {
    Q_OBJECT

  public:
    explicit LinkMore(Theme& theme, QWidget* parent = nullptr);
    /// Shows the fields of a kind of link; false: it has none.
    bool setKind(LinkKind kind);
    void showPlan(const LinkPlan& plan);
    /// Into the parts of the plan that belong to its kind. Empty, or what is wrong, as a sentence.
    [[nodiscard]] QString readPlan(LinkPlan& plan) const;

  private:
    QWidget* portFields();
    QWidget* brokerFields();
    QWidget* fileFields();

    Theme& m_theme;
    QComboBox *m_frame, *m_speed;
    QCheckBox *m_may_reset, *m_version_5;
    QLineEdit *m_status, *m_gone, *m_command, *m_ca;
};

} // namespace cognitum
