// One board that sends, or a port that is listened to: where it is, what it is like, and its fields with what each
// may be. A click makes a field a reading.
#pragma once

#include "session/live/arriving.h"
#include "ui/theme.h"
#include "ui/widgets/spoken.h"

#include <QComboBox>
#include <QWidget>

class QGridLayout;
class QPushButton;

namespace cognitum {

class TextLabel;

/// The last numbers of a field as a line, without scale: whether it moves, and how.
class FieldTrace : public QWidget, public Spoken {
    Q_OBJECT

  public:
    explicit FieldTrace(Theme& theme, QWidget* parent = nullptr);
    void setSamples(std::vector<RawSample> samples);
    [[nodiscard]] QString spoken() const override;
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Theme& m_theme;
    std::vector<RawSample> m_samples;
};

class ArrivingView : public QWidget {
    Q_OBJECT

  public:
    ArrivingView(Theme& theme, const Catalog& catalog, QWidget* parent = nullptr);
    void show(const ArrivingBoard& board);
    /// Board card that is chosen for it.
    [[nodiscard]] std::string card() const;

  signals:
    void taken(const QString& field, const QString& kind);

  private:
    struct Row {
        TextLabel *name, *last, *about;
        FieldTrace* trace;
        QComboBox* kind; ///< what it is: as proposed, until a person chooses
        QPushButton* take;
        QPushButton* anyway = nullptr; ///< for what looks like a counter or a clock
        bool chosen = false;           ///< its kind, by a person
    };
    void addRow(const ArrivedField& field);

    Theme& m_theme;
    TextLabel *m_title, *m_says;
    QWidget* m_like;
    QComboBox* m_card;
    QGridLayout* m_grid;
    std::map<std::string, Row> m_rows; ///< by field
    bool m_chosen = false;             ///< a person chose the card
};

} // namespace cognitum
