// How a board is reached: a row that chooses the kind of link and its particulars, connects and disconnects, and
// says how it goes in words.
#pragma once

#include "core/bench/link_plan.h"
#include "ui/context.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QStackedWidget>
#include <QWidget>

namespace cognitum {

class FoldingRow;
class LinkFields;
class LiveLabel;
class TextLabel;

class LinkBox : public QWidget {
    Q_OBJECT

  public:
    explicit LinkBox(Context& context, QWidget* parent = nullptr);
    void setBoard(const std::string& board);

  private:
    QWidget* secretRow();
    QWidget* permissionRow();
    /// Fields of the kind that is chosen.
    [[nodiscard]] LinkFields& fields() const;
    void showKind();
    void listChoices();
    void showPlan(const LinkPlan& plan);
    /// What the fields say, into the plan. Empty, or what is missing or wrong, as a sentence.
    [[nodiscard]] QString readPlan(LinkPlan& plan) const;
    void connectLink();
    void disconnectLink();
    void refresh();
    QString countsText(const BoardUse& use, const LiveBoard& board);
    void complain(const QString& sentence);

    Context& m_context;
    std::string m_board;   ///< empty: none
    bool m_listed = false; ///< its choices, once
    std::vector<LinkFields*> m_all;
    QComboBox *m_kind, *m_format;
    QStackedWidget *m_fields, *m_more;
    QPushButton *m_open, *m_close, *m_unfold;
    bool m_unfolded = false;
    QCheckBox* m_keep;
    FoldingRow *m_choice, *m_folded;
    QWidget *m_secret, *m_permission;
    QLineEdit *m_user, *m_password;
    TextLabel* m_state;
    LiveLabel* m_counts;
    QString m_complaint; ///< shown until something is changed
};

} // namespace cognitum
