// What every page has: a title at the left, a note at the right, a body that refreshes while it is visible, and
// optionally a section of the side panel.
#pragma once

#include "ui/context.h"

#include <QHBoxLayout>
#include <QPushButton>

#include <QVBoxLayout>
#include <QWidget>

namespace cognitum {

class LiveLabel;
class TextLabel;

class Page : public QWidget {
    Q_OBJECT

  public:
    Page(Context& context, const QString& title, QWidget* parent);

    /// Section for the side panel; null: none.
    [[nodiscard]] virtual QWidget* side() { return nullptr; }
    /// True when the side section stands for findings and doubt as well.
    [[nodiscard]] virtual bool sideAlone() const { return false; }
    /// False for pages that need the whole width.
    [[nodiscard]] virtual bool wantsSide() const { return true; }

  protected:
    /// Brings the page up to date. Called when it is shown and whenever something changed while it is visible.
    virtual void refresh() = 0;
    /// Another reading or bench: forget what belonged to the last one.
    virtual void readingChanged() {}
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    /// Tab goes through the parts as they stand, whenever they were made.
    bool focusNextPrevChild(bool next) override;
    /// Columns that stand above each other where the page is narrower than they need, by this number or by their
    /// words. `needed`: design pixels of the page; at 1280 x 800 a page beside the side panel has 776.
    void stackWhenNarrow(QBoxLayout* columns, double needed = 660) { m_columns.emplace_back(columns, needed); }
    /// Shows or hides what the page has in the side panel; nothing while it is not in there, or it would be a
    /// window.
    static void showSide(QWidget* section, bool visible);
    void setTitle(const QString& title);
    void setNote(const QString& note);
    [[nodiscard]] Context& context() const { return m_context; }
    [[nodiscard]] Theme& theme() const { return m_context.theme(); }
    [[nodiscard]] QVBoxLayout* body() const { return m_body; }
    /// What the parts of a page stand in. Made inside it, a part gets its style once, and not again when it is laid
    /// out.
    [[nodiscard]] QWidget* sheet() const { return m_sheet; }

  private:
    void arrange();

    Context& m_context;
    TextLabel* m_title;
    LiveLabel* m_note;
    QVBoxLayout* m_body;
    QWidget* m_sheet;
    std::vector<std::pair<QBoxLayout*, double>> m_columns;
};

} // namespace cognitum
