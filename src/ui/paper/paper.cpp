#include "ui/paper/paper.h"

#include "ui/paper/picture_object.h"
#include "ui/save_file.h"
#include "ui/theme.h"

#include <QAbstractTextDocumentLayout>
#include <QBuffer>
#include <QCoreApplication>
#include <QSvgGenerator>
#include <QTextBlock>
#include <QTextCursor>
#include <QTextDocument>

namespace cognitum {

namespace {

constexpr double dots_per_inch = 96; ///< in which a page is laid out
constexpr double head_px = 26, foot_px = 30;
constexpr double html_width = 680; ///< of pictures, as the PDF's page

QString escaped_lines(const QString& text) {
    return text.toHtmlEscaped().replace(QLatin1Char('\n'), QStringLiteral("<br/>"));
}

QString table_html(const PaperTable& table) {
    QString html = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='3'>");
    const auto row = [&](const QStringList& cells, const char* tag) {
        html += QStringLiteral("<tr>");
        for (qsizetype c = 0; c < cells.size(); ++c) {
            QString attributes = QStringLiteral(" valign='top' align='%1'")
                                     .arg(table.numbers.contains(static_cast<int>(c)) ? QStringLiteral("right")
                                                                                      : QStringLiteral("left"));
            if (c < table.widths.size()) attributes += QStringLiteral(" width='%1%'").arg(table.widths[c]);
            html += QStringLiteral("<%1%2>%3</%1>").arg(QLatin1String(tag), attributes, escaped_lines(cells[c]));
        }
        html += QStringLiteral("</tr>");
    };
    if (!table.head.isEmpty()) row(table.head, "th");
    for (const QStringList& cells : table.rows)
        row(cells, "td");
    return html + QStringLiteral("</table>");
}

constexpr const char* style_sheet =
    "h3 { font-size: 13px; margin-top: 12px; margin-bottom: 2px; } p { margin-top: 2px; margin-bottom: 4px; }"
    "th { font-weight: 600; }";

} // namespace

QString paper_filter() {
    return QCoreApplication::translate("Paper", "PDF (*.pdf);;HTML page (*.html)");
}

QString Paper::footText() const {
    QString out = QCoreApplication::translate("Paper", "Cognitum %1").arg(QCoreApplication::applicationVersion());
    if (!m_foot.isEmpty()) out += QStringLiteral(" · ") + m_foot;
    return out;
}

QString Paper::bodyHtml(const std::function<QString(const Picture&)>& picture) const {
    QString html = QStringLiteral("<h2>%1</h2>").arg(escaped_lines(m_title));
    if (!m_about.isEmpty()) html += QStringLiteral("<p>%1</p>").arg(escaped_lines(m_about));
    for (const Block& block : m_blocks) {
        if (const auto* h = std::get_if<Heading>(&block))
            html += QStringLiteral("<h3>%1</h3>").arg(escaped_lines(h->text));
        else if (const auto* t = std::get_if<Text>(&block))
            html +=
                QStringLiteral("<p>%1%2</p>")
                    .arg(t->name.isEmpty() ? QString() : QStringLiteral("<b>%1</b>: ").arg(escaped_lines(t->name)),
                         escaped_lines(t->text));
        else if (const auto* c = std::get_if<Caution>(&block))
            html += QStringLiteral("<p>▲ %1</p>").arg(escaped_lines(c->text));
        else if (const auto* table = std::get_if<PaperTable>(&block))
            html += table_html(*table);
        else
            html += picture(std::get<Picture>(block));
    }
    return html;
}

QByteArray Paper::html() const {
    const auto svg = [](const Picture& picture) {
        QBuffer buffer;
        buffer.open(QIODevice::WriteOnly);
        QSvgGenerator generator;
        generator.setOutputDevice(&buffer);
        generator.setSize(QSizeF(html_width, picture.height).toSize());
        generator.setViewBox(QRectF(0, 0, html_width, picture.height));
        QPainter painter(&generator);
        painter.setRenderHint(QPainter::Antialiasing);
        picture.draw(painter, {0, 0, html_width, picture.height});
        painter.end();
        const QString text = QString::fromUtf8(buffer.data());
        return QStringLiteral("<div class='picture'>%1</div>")
            .arg(text.mid(std::max<qsizetype>(0, text.indexOf(QStringLiteral("<svg")))));
    };
    const QString page =
        QStringLiteral(
            "<!DOCTYPE html>\n<html lang='en'>\n<head>\n<meta charset='utf-8'/>\n<title>%1</title>\n"
            "<style>body { font: 14px/1.45 Inter, sans-serif; color: #1f2430; max-width: 46em; margin: 2em "
            "auto; padding: 0 1em; } table { border-collapse: collapse; margin: 0.4em 0 1em; } td, th { "
            "border-bottom: 1px solid #d9d9d4; padding: 0.25em 0.7em 0.25em 0; } header, footer { color: "
            "#5c6370; font-size: 0.85em; border-bottom: 1px solid #d9d9d4; } footer { border: 0; border-top: "
            "1px solid #d9d9d4; margin-top: 2em; } .picture svg { width: 100%; height: auto; }</style>\n"
            "</head>\n<body>\n<header>%2</header>\n%3\n<footer>%4</footer>\n</body>\n</html>\n")
            .arg(escaped_lines(m_title), escaped_lines(m_bench), bodyHtml(svg), escaped_lines(footText()));
    return page.toUtf8();
}

Result<void> Paper::save(const QString& path) const {
    if (path.endsWith(QStringLiteral(".html"))) return save_text(path, html().toStdString());
    if (path.endsWith(QStringLiteral(".pdf"))) return savePdf(path);
    return failure("a report ends in .pdf or .html.", path.toStdString(), "Give it one of these endings.");
}

Result<void> Paper::savePdf(const QString& path) const {
    return save_pdf(path, m_title, [this](QPdfWriter& writer) { return print(writer); });
}

bool Paper::print(QPagedPaintDevice& device) const {
    QPainter p;
    if (!p.begin(&device)) return false;
    const Theme light;
    const double scale = device.logicalDpiX() / dots_per_inch;
    p.scale(scale, scale);
    const double width = device.width() / scale;
    const double page = device.height() / scale - head_px - foot_px;
    PictureObject pictures;
    QTextDocument document;
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(11);
    document.setDefaultFont(font);
    document.setDefaultStyleSheet(QLatin1String(style_sheet));
    document.setDocumentMargin(0);
    document.setPageSize({width, page});
    document.documentLayout()->registerHandler(PictureObject::type, &pictures);
    document.setHtml(bodyHtml([&](const Picture& picture) {
        pictures.entries.push_back({{width, std::min(picture.height, page - 40)}, picture.draw});
        return QStringLiteral("<p>[[picture %1]]</p>").arg(pictures.entries.size() - 1);
    }));
    for (std::size_t i = 0; i < pictures.entries.size(); ++i) {
        QTextCursor at = document.find(QStringLiteral("[[picture %1]]").arg(i));
        if (at.isNull()) continue;
        QTextCharFormat format;
        format.setObjectType(PictureObject::type);
        format.setProperty(PictureObject::index_property, static_cast<int>(i));
        at.insertText(QString(QChar::ObjectReplacementCharacter), format);
    }
    const int pages = document.pageCount();
    for (int i = 0; i < pages; ++i) {
        if (i > 0) device.newPage();
        p.setFont(light.text(10));
        p.setPen(light.colours().soft);
        p.drawText(QRectF(0, 0, width, head_px - 10), Qt::AlignLeft | Qt::AlignTop, m_bench);
        p.drawText(QRectF(0, 0, width, head_px - 10), Qt::AlignRight | Qt::AlignTop, i > 0 ? m_title : QString());
        p.setPen(light.pen(light.colours().rule));
        p.drawLine(QPointF(0, head_px - 8), QPointF(width, head_px - 8));
        p.save();
        p.translate(0, head_px - i * page);
        document.drawContents(&p, {0, i * page, width, page});
        p.restore();
        const QRectF foot(0, head_px + page + 8, width, foot_px - 8);
        p.setPen(light.pen(light.colours().rule));
        p.drawLine(foot.topLeft(), foot.topRight());
        p.setPen(light.colours().soft);
        p.setFont(light.text(10));
        p.drawText(foot, Qt::AlignLeft | Qt::AlignBottom, footText());
        p.drawText(foot, Qt::AlignRight | Qt::AlignBottom,
                   QCoreApplication::translate("Paper", "page %1 of %2").arg(i + 1).arg(pages));
    }
    return p.end();
}

} // namespace cognitum
