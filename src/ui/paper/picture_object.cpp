#include "ui/paper/picture_object.h"

namespace cognitum {

const PictureObject::Entry& PictureObject::entry(const QTextFormat& format) const {
    return entries.at(static_cast<std::size_t>(format.intProperty(index_property)));
}

QSizeF PictureObject::intrinsicSize(QTextDocument*, int, const QTextFormat& format) {
    return entry(format).size;
}

void PictureObject::drawObject(QPainter* painter, const QRectF& box, QTextDocument*, int,
                               const QTextFormat& format) {
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    entry(format).draw(*painter, box);
    painter->restore();
}

} // namespace cognitum
