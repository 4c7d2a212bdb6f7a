// Pictures inside a text document, drawn when its page is: they stay vectors.
#pragma once

#include "ui/paper/paper.h"

#include <QTextFormat>
#include <QTextObjectInterface>

#ifdef Q_MOC_RUN // it reads this header alone, and Q_INTERFACES asks for what another declares
Q_DECLARE_INTERFACE(QTextObjectInterface, "org.qt-project.Qt.QTextObjectInterface")
#endif

namespace cognitum {

class PictureObject : public QObject, public QTextObjectInterface {
    Q_OBJECT
    Q_INTERFACES(QTextObjectInterface)

  public:
    static constexpr int type = QTextFormat::UserObject + 1;
    static constexpr int index_property = QTextFormat::UserProperty + 1; ///< which of the entries
    struct Entry {
        QSizeF size;
        DrawPicture draw;
    };
    std::vector<Entry> entries;

    QSizeF intrinsicSize(QTextDocument* document, int position, const QTextFormat& format) override;
    void drawObject(QPainter* painter, const QRectF& box, QTextDocument* document, int position,
                    const QTextFormat& format) override;

  private:
    [[nodiscard]] const Entry& entry(const QTextFormat& format) const;
};

} // namespace cognitum
