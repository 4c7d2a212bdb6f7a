// The first ten minutes, from a board that sends: six pictures on one sheet.
#include "screenshots_theatre.h"

#include "session/live/arriving.h"
#include "ui/stops/sensor/candidate_table.h"

#include <QPainter>

namespace cognitum {

namespace {

/// Six pictures, three in a row, each with a line below it, on a sheet as large as the window.
QImage sheet_of(const std::vector<std::pair<QImage, QString>>& pictures, const Theme& theme) {
    constexpr int gap = 16, words = 30, columns = 3;
    const QSize window = pictures.front().first.size();
    const int width = (window.width() - (columns + 1) * gap) / columns;
    const QSize each(width, width * window.height() / window.width());
    const int rows = (static_cast<int>(pictures.size()) + columns - 1) / columns;
    const int top = (window.height() - rows * (each.height() + words) - (rows - 1) * gap) / 2;
    QImage out(window, QImage::Format_RGB888);
    out.fill(theme.colours().paper);
    QPainter painter(&out);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.setFont(theme.text(13));
    painter.setPen(theme.colours().ink);
    for (int i = 0; i < static_cast<int>(pictures.size()); ++i) {
        const auto& [picture, text] = pictures[static_cast<std::size_t>(i)];
        const QPoint at(gap + i % columns * (each.width() + gap),
                        top + i / columns * (each.height() + words + gap));
        painter.drawImage(at, picture.scaled(each, Qt::IgnoreAspectRatio, Qt::SmoothTransformation));
        painter.setPen(theme.colours().rule);
        painter.drawRect(QRect(at, each).adjusted(0, 0, -1, -1));
        painter.setPen(theme.colours().ink);
        painter.drawText(QRect(at.x(), at.y() + each.height(), each.width(), words),
                         Qt::AlignLeft | Qt::AlignVCenter, QStringLiteral("%1  %2").arg(i + 1).arg(text));
    }
    return out;
}

} // namespace

void shoot_first_minutes(Theatre& stage, bool sheet) {
    std::vector<std::pair<QImage, QString>> pictures;
    const auto picture = [&](const char* text) { pictures.emplace_back(stage.grab(), QString::fromUtf8(text)); };
    picture("Start a new bench");
    Arrivals& arrivals = stage.session().arrivals();
    std::string board; // of the bench, once it has one
    stage.newBench([&](const QByteArray& bytes) {
        if (board.empty())
            arrivals.injectNow("arriving-1", bytes);
        else
            stage.session().worker().injectBytesNow(board, bytes);
    });
    LinkPlan link;
    link.kind = LinkKind::simulated;
    arrivals.listenTo(link, QStringLiteral("/dev/ttyUSB0"));
    stage.startGauge();
    for (int i = 0; i < 24; ++i) { // the page looks, and keeps the numbers of what it has seen
        stage.run(1);
        arrivals.look(stage.window().context().live());
    }
    stage.choose("kindOf_A2", "temperature");
    picture("What the board sends, and what each may be");
    if (!sheet) return stage.shoot(QStringLiteral("new"));
    stage.press("take_A2");
    board = stage.session().bench().boards.front().id;
    stage.settle();
    stage.tell("reset"); // its link asks for that when it opens
    stage.run(20);
    for (CandidateTable* table : stage.window().findChildren<CandidateTable*>())
        for (int i = 0; i < static_cast<int>(table->candidates().size()); ++i)
            if (table->candidates()[static_cast<std::size_t>(i)].part == "analog-thermometer-with-offset") {
                table->setChosen(i);
                emit table->chosenChanged();
            }
    picture("Which part is it?");
    stage.press("choosePart");
    stage.run(60);
    stage.window().showStop(4);
    stage.run(30);
    picture("The count becomes degrees");
    stage.window().showStop(5);
    stage.settle();
    stage.takePoint("probe ice", 0, {});
    picture("Compared with ice");
    stage.takePoint("probe bath 32.7", 1, QStringLiteral("32.7"));
    stage.press("finishCalibration");
    stage.run(30);
    picture("And with a warm bath: calibrated");
    const QString path = stage.path(QStringLiteral("first-minutes"));
    sheet_of(pictures, stage.window().context().theme()).save(path);
    std::printf("%s\n", qPrintable(path));
}

} // namespace cognitum
