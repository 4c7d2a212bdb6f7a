// The baseline of P8: a bare Qt window with one plot, which ends after its first painted frame.
#include <QApplication>
#include <QMainWindow>
#include <QTimer>
#include <cstdlib>
#include <qcustomplot.h>

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    QMainWindow window;
    auto* plot = new QCustomPlot;
    plot->addGraph()->setData({0, 1, 2}, {0, 1, 0});
    plot->rescaleAxes();
    window.setCentralWidget(plot);
    window.resize(1280, 800);
    QObject::connect(plot, &QCustomPlot::afterReplot, &app,
                     [] { QTimer::singleShot(0, [] { std::quick_exit(0); }); });
    window.show();
    return QApplication::exec();
}
