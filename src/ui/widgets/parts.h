// The small parts that pages are made of: labels in the three text sizes, marks, rules, links, and rows.
#pragma once

#include "core/plan/findings.h"
#include "session/path_state.h"
#include "ui/theme.h"
#include "ui/widgets/text_label.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLayout>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <functional>
#include <utility>
#include <vector>

namespace cognitum {

QString from_std(const std::string& text);

/// State as a shape: disc, triangle, diamond, ring; never colour alone.
void paint_mark(QPainter& painter, const Theme& theme, const QPointF& centre, double size, Mark mark);
QColor mark_colour(const Theme& theme, Mark mark);
Mark mark_of(Severity severity);

class MarkLabel : public QWidget {
    Q_OBJECT

  public:
    explicit MarkLabel(Theme& theme, Mark mark = Mark::not_begun, QWidget* parent = nullptr);
    void setMark(Mark mark);
    [[nodiscard]] Mark mark() const { return m_mark; }
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Theme& m_theme;
    Mark m_mark;
};

/// A thin horizontal line in the rule's colour, or in ink.
class RuleLine : public QWidget {
    Q_OBJECT

  public:
    explicit RuleLine(Theme& theme, bool ink = false, QWidget* parent = nullptr);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Theme& m_theme;
    bool m_ink;
};

QPushButton* make_button(const QString& text, const QString& name, bool main = false);
QPushButton* make_link(const QString& text, const QString& name, QWidget* parent = nullptr);
/// A person's own words on a button: an & in them is no key.
QString on_button(QString words);

/// A field to type in; `about` says what, for who hovers and who listens.
QLineEdit* make_field(const char* name, const QString& about, const QString& hint, QWidget* parent = nullptr);
QCheckBox* make_check(const char* name, const QString& text);
/// A row without margins inside a widget.
QHBoxLayout* make_row(QWidget* widget, int spacing);

/// A frameless scroll area around a widget that lets the page show through; scrolls downwards only.
QScrollArea* make_scroll(QWidget* content);
/// Lets what is behind a scroll area show through it; after its widget is set.
void see_through(QScrollArea* area);

/// Shows or hides a part. What was never hidden is seen with its window: to show it before would lay it out at a
/// size of its own.
void show_part(QWidget* part, bool visible);
/// Deletes everything in a layout.
void clear_layout(QLayout* layout);
/// Sets a label's text only when it differs, so that nothing is laid out again for the same words.
void set_text(QLabel* label, const QString& text);

} // namespace cognitum
