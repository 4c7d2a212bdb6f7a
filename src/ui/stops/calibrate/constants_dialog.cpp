#include "ui/stops/calibrate/constants_dialog.h"

#include "core/base/phrase.h"
#include "core/calibrate/board_constants.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/widgets/parts.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

namespace cognitum {

ConstantsDialog::ConstantsDialog(Context& context, const Reading& reading, QWidget* parent) : QDialog(parent) {
    Theme& theme = context.theme();
    setWindowTitle(tr("Constants for the board"));
    setObjectName(QStringLiteral("constantsDialog"));
    auto* layout = new QVBoxLayout(this);
    const Chain path = context.session().views().path(reading, context.live());
    // Raw values between those of the expected range's ends.
    const Value low = inverse(path, reading.quantity.low), high = inverse(path, reading.quantity.high);
    const double raw = inverse(path, (reading.quantity.low + reading.quantity.high) / 2).number;
    const double u = context.session().views().budget(reading, raw, context.live()).standard_uncertainty;
    BoardConstants constants;
    if (low.ok() && high.ok())
        constants = board_constants(path, std::min(low.number, high.number), std::max(low.number, high.number), u);
    else
        constants.trouble = phrase("The path has no way back over the expected range: look at the Convert stop.");
    const std::string unit = unit_symbol(reading.quantity.unit);
    auto* about =
        new TextLabel(theme, TextLabel::Role::body,
                      constants.trouble.empty()
                          ? tr("From the raw number to the corrected value, between %1 and %2. Rounding costs at "
                               "most %3, less than a tenth of the doubt (± %4).")
                                .arg(from_std(format_measure(reading.quantity.low, reading.quantity.unit)),
                                     from_std(format_measure(reading.quantity.high, reading.quantity.unit)),
                                     from_std(format_measure(constants.rounding_cost, reading.quantity.unit, 2)),
                                     from_std(format_measure(2 * u, reading.quantity.unit, 2)))
                          : from_std(constants.trouble));
    about->setWordWrap(true);
    layout->addWidget(about);
    auto* text = new QPlainTextEdit(from_std(board_code(constants, reading.name, unit)));
    text->setObjectName(QStringLiteral("constantsText"));
    text->setReadOnly(true);
    text->setFont(theme.mono(12));
    layout->addWidget(text, 1);
    auto* row = new QHBoxLayout;
    auto* copy = make_button(tr("Copy"), QStringLiteral("copyConstants"), true);
    auto* close = make_button(tr("Close"), QStringLiteral("closeConstants"));
    row->addWidget(copy);
    row->addWidget(close);
    row->addStretch(1);
    layout->addLayout(row);
    connect(copy, &QPushButton::clicked, this,
            [text] { QGuiApplication::clipboard()->setText(text->toPlainText()); });
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    resize(theme.px(560), theme.px(360));
}

} // namespace cognitum
