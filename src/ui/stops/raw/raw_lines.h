// The lines as they came: calm, paused without losing any, searched, exported. This reading's own number stands out
// in each.
#pragma once

#include "session/live/line_store.h"
#include "ui/context.h"

#include <QAbstractListModel>
#include <QLineEdit>
#include <QListView>
#include <QPushButton>
#include <deque>

namespace cognitum {

class TextLabel;

class LineModel : public QAbstractListModel {
    Q_OBJECT

  public:
    static constexpr std::size_t most_rows = 4000;
    enum Roles { line_role = Qt::UserRole + 1 };
    explicit LineModel(QObject* parent = nullptr) : QAbstractListModel(parent) {}
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    void append(std::vector<KeptLine> lines);
    void clear();
    /// Only lines that hold this text; empty: all.
    void setWanted(const QString& text);
    [[nodiscard]] const KeptLine& line(int row) const { return m_shown[static_cast<std::size_t>(row)]; }

  private:
    [[nodiscard]] bool wanted(const KeptLine& line) const;
    std::deque<KeptLine> m_all, m_shown;
    std::string m_wanted;
};

class RawLines : public QWidget {
    Q_OBJECT

  public:
    explicit RawLines(Context& context, QWidget* parent = nullptr);
    void refresh();
    void forget();
    void setPaused(bool paused);
    [[nodiscard]] bool isPaused() const { return m_paused; }
    void find();
    void exportLines();

  private:
    void tellState(std::uint64_t waiting);

    Context& m_context;
    LineModel* m_model;
    QListView* m_view;
    TextLabel* m_note;
    QLineEdit* m_search;
    QPushButton *m_pause, *m_export;
    std::string m_board, m_reading;
    std::uint64_t m_last = 0, m_stream_lines = 0;
    bool m_paused = false;
};

/// Where a field's value stands in a line's text: of names and values, of JSON, or of a table's column. Length 0:
/// not found.
struct TextSpan {
    std::size_t at = 0, length = 0;
};
TextSpan value_span(std::string_view text, std::string_view field, int column);

} // namespace cognitum
