// Who is told, and how: the desktop, a broker, the quiet hours; and which values are published for others. Each can
// be tried now.
#pragma once

#include "session/recorder/recorder_control.h"
#include "ui/context.h"
#include "ui/widgets/number_field.h"

#include <QCheckBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

class QFormLayout;
class QVBoxLayout;

namespace cognitum {

class TextLabel;

class TellingView : public QWidget {
    Q_OBJECT

  public:
    explicit TellingView(Context& context, QWidget* parent = nullptr);
    void refresh();

  private:
    void addTelling(QVBoxLayout& rows);
    void addPublishing(QVBoxLayout& rows);
    void addLogIn(QFormLayout& publish);
    void addPage(QVBoxLayout& rows);
    void takeQuietHours();
    void edit(const std::function<void(Bench&)>& change);
    Context& m_context;
    RecorderControl m_recorder;
    QCheckBox *m_goes_on, *m_desktop, *m_sound, *m_broker, *m_asks, *m_keep;
    QLineEdit *m_quiet_from, *m_quiet_to, *m_host, *m_topic, *m_user, *m_password;
    QWidget* m_secret;
    NumberField *m_port, *m_every, *m_page_port;
    QCheckBox* m_page;
    QPushButton *m_token, *m_alone;
    QListWidget* m_readings;
    TextLabel *m_trouble, *m_broker_state, *m_page_state, *m_token_text;
    QString m_listed; ///< which readings the list shows
    bool m_filling = false;
};

} // namespace cognitum
