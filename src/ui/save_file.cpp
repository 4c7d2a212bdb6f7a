#include "ui/save_file.h"

#include "core/base/phrase.h"

#include <QPageSize>
#include <QSaveFile>

namespace cognitum {

Result<void> save_file(const QString& path, const std::function<bool(QIODevice&)>& write) {
    QSaveFile file(path);
    if (file.open(QIODevice::WriteOnly) && write(file) && file.commit()) return {};
    return failure(phrase("the file cannot be written ({}).", file.errorString().toStdString()), path.toStdString(),
                   phrase("Choose another folder."));
}

Result<void> save_text(const QString& path, std::string_view text) {
    return save_file(path, [text](QIODevice& file) {
        return file.write(text.data(), static_cast<qint64>(text.size())) == static_cast<qint64>(text.size());
    });
}

Result<void> save_pdf(const QString& path, const QString& title, const std::function<bool(QPdfWriter&)>& draw) {
    return save_file(path, [&](QIODevice& file) {
        QPdfWriter writer(&file);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins(QMarginsF(15, 15, 15, 15), QPageLayout::Millimeter);
        writer.setTitle(title);
        writer.setCreator(QStringLiteral("Cognitum"));
        return draw(writer);
    });
}

} // namespace cognitum
