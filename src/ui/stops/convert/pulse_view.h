// Stop 5, what pulses add up to: rain over hours and days, beats beside the fixed threshold, events of a contact,
// gusts.
#pragma once

#include "core/pulses/picture.h"
#include "core/pulses/summary.h"
#include "session/archive/recorded.h"
#include "ui/context.h"

#include <QWidget>

class QComboBox;
class QGridLayout;

namespace cognitum {

class PulseDrawing;

class PulseView : public QWidget {
    Q_OBJECT

  public:
    explicit PulseView(Context& context, QWidget* parent = nullptr);
    /// True for kinds whose numbers add up to something.
    static bool knows(const Reading& reading);
    void show(const Reading& reading);

  private:
    struct Sums {
        std::vector<PulseFact> facts;
        PulsePicture picture;
    };
    [[nodiscard]] Sums sums(const Reading& reading, const std::vector<RawSample>& recorded) const;
    void showSums(const Sums& shown);

    Context& m_context;
    PulseDrawing* m_drawing;
    QGridLayout* m_grid;
    QWidget* m_rain;
    QComboBox *m_day, *m_contact;
    TimeUs m_second = 0;
    std::string m_reading;
    ArchiveQuestion<std::vector<RawSample>> m_question;
};

} // namespace cognitum
