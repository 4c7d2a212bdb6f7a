// Everything that Cognitum puts on paper: one style, as A4 in PDF or as an HTML page that stands alone. A head with
// bench and subject, blocks in order, charts as vectors; at the foot page, program version and fingerprint of the
// data.
#pragma once

#include "core/base/error.h"

#include <QPagedPaintDevice>
#include <QPainter>
#include <QString>
#include <QStringList>
#include <functional>
#include <variant>
#include <vector>

namespace cognitum {

/// Draws into a box of the given size in points of 1/96 inch, light whatever the window's theme.
using DrawPicture = std::function<void(QPainter& painter, const QRectF& box)>;

struct PaperTable {
    QStringList head; ///< empty: there is none
    QList<QStringList> rows;
    QList<int> widths = {};  ///< share of each column, in percent; empty: as its text needs
    QList<int> numbers = {}; ///< columns whose text stands at the right
};

class Paper {
  public:
    /// `bench`: name and place; `title`: what it is; `about`: reading, time.
    Paper(QString bench, QString title, QString about)
        : m_bench(std::move(bench)), m_title(std::move(title)), m_about(std::move(about)) {}

    // All text is plain: markup in it is shown as it stands. A line break stays one.
    void heading(const QString& text) { m_blocks.emplace_back(Heading{text}); }
    void text(const QString& text) { m_blocks.emplace_back(Text{text, {}}); }
    /// "Rain: 48 mm": the name stands out.
    void named(const QString& name, const QString& text) { m_blocks.emplace_back(Text{text, name}); }
    void caution(const QString& text) { m_blocks.emplace_back(Caution{text}); }
    void table(PaperTable table) { m_blocks.emplace_back(std::move(table)); }
    /// As wide as the page.
    void picture(double height, DrawPicture draw) { m_blocks.emplace_back(Picture{height, std::move(draw)}); }
    /// What the foot says beside the program's version: the fingerprint of the data.
    void foot(const QString& text) { m_foot = text; }

    /// By the ending of the name: .pdf or .html. The same paper gives the same bytes, apart from PDF's own date.
    [[nodiscard]] Result<void> save(const QString& path) const;
    [[nodiscard]] QByteArray html() const;
    /// Onto a printer. False: it could not begin.
    bool print(QPagedPaintDevice& device) const;

  private:
    struct Heading {
        QString text;
    };
    struct Text {
        QString text, name;
    };
    struct Caution {
        QString text;
    };
    struct Picture {
        double height;
        DrawPicture draw;
    };
    using Block = std::variant<Heading, Text, Caution, PaperTable, Picture>;
    [[nodiscard]] Result<void> savePdf(const QString& path) const;
    [[nodiscard]] QString bodyHtml(const std::function<QString(const Picture&)>& picture) const;
    [[nodiscard]] QString footText() const;

    QString m_bench, m_title, m_about, m_foot;
    std::vector<Block> m_blocks;
};

/// The formats that save() knows, for a file dialog.
QString paper_filter();

} // namespace cognitum
