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

class PortWatch;
class LinkMore;
class LiveLabel;
class TextLabel;

class LinkBox : public QWidget {
    Q_OBJECT

  public:
    explicit LinkBox(Context& context, QWidget* parent = nullptr);
    void setBoard(const std::string& board);

  private:
    QWidget* serialFields();
    QWidget* mqttFields();
    QWidget* httpFields();
    QWidget* fileFields();
    QWidget* secretRow();
    QWidget* permissionRow();
    void showKind(int page);
    void listPorts();
    void showPlan(const LinkPlan& plan);
    /// What the fields say; false with a sentence when something is missing.
    bool readPlan(LinkPlan& plan, QString& trouble) const;
    void connectLink();
    void disconnectLink();
    void refresh();
    QString countsText(const BoardUse& use, const LiveBoard& board);
    void complain(const QString& sentence);

    Context& m_context;
    std::string m_board;
    QComboBox *m_kind, *m_port, *m_speed, *m_format;
    QStackedWidget* m_fields;
    QLineEdit *m_broker, *m_topics, *m_path, *m_http_port;
    QCheckBox *m_tls, *m_log_in, *m_wide, *m_follow;
    TextLabel* m_token;
    std::string m_token_print;
    QPushButton *m_open, *m_close, *m_unfold;
    LinkMore* m_more;
    bool m_unfolded = false;
    QCheckBox* m_keep;
    QWidget *m_choice, *m_secret, *m_permission, *m_folded;
    QLineEdit *m_user, *m_password;
    TextLabel* m_state;
    LiveLabel* m_counts;
    QString m_complaint; ///< shown until something is changed
};

} // namespace cognitum
