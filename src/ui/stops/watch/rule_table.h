// The rules of a reading, a row each: what they look at, how they confirm it, and how often they would have spoken.
#pragma once

#include "session/path_state.h"
#include "ui/theme.h"

#include <QTableWidget>
#include <vector>

namespace cognitum {

struct RuleRow {
    std::string id;
    Mark mark = Mark::look;
    bool raised = false;
    QString name, state;  ///< "on", "off", "since 14:02"
    QString when, how;    ///< what it looks at, how it confirms and tells it
    QString spoke, about; ///< how often on the record, and when last
    bool too_often = false;
    bool operator==(const RuleRow&) const = default;
};

class RuleTable : public QTableWidget {
    Q_OBJECT

  public:
    explicit RuleTable(Theme& theme, QWidget* parent = nullptr);
    void setRows(const std::vector<RuleRow>& rows);
    [[nodiscard]] std::string chosen() const; ///< id; empty: none
    void choose(const std::string& id);

  signals:
    void opened(const QString& id); ///< double click or Return

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    Theme& m_theme;
    std::vector<RuleRow> m_rows;
};

} // namespace cognitum
