#include "ui/stops/calibrate/point_table.h"

#include "core/calibrate/references.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "session/language.h"
#include "ui/widgets/parts.h"

#include <QHeaderView>
#include <cmath>

namespace cognitum {

void PointModel::show(const Reading& reading, const std::vector<CalibrationPoint>& points, const Fit* fit) {
    const bool other = m_points.size() != points.size();
    if (other) beginResetModel();
    m_points = points;
    m_before = reading.correction;
    m_fit = fit ? std::optional<Fit>(*fit) : std::nullopt;
    m_unit = reading.quantity.unit;
    double smallest = reading.quantity.accuracy;
    for (const CalibrationPoint& p : points)
        smallest = std::min(smallest, std::max(p.u_reference, p.u_indication));
    const bool state = reading.quantity.about().is_state();
    m_decimals = state ? 0 : decimals_for(std::max(smallest, 1e-9) / 2);
    if (other)
        endResetModel();
    else if (!points.empty())
        emit dataChanged(index(0, 0), index(rowCount() - 1, columns - 1));
}

int PointModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_points.size());
}

QString PointModel::text(const CalibrationPoint& p, int row, int column) const {
    const auto signed_text = [&](double value) {
        return (value >= 0 ? QStringLiteral("+") : QString()) + from_std(format_fixed(value, m_decimals));
    };
    switch (column) {
    case which: {
        const ReferenceKind* kind = find_reference_kind(p.reference_kind);
        const ReferenceInstrument* instrument = m_context.session().bench().reference(p.instrument);
        QString title = instrument ? from_std(instrument->name)
                        : kind     ? from_std(kind->title)
                                   : from_std(p.reference_kind);
        if (p.run != 0) title += p.run > 0 ? tr(", rising") : tr(", falling");
        if (p.check) title += tr(", a check");
        if (p.as_left) title += tr(", as left");
        if (p.forced) title += tr(", forced");
        return QStringLiteral("%1  %2").arg(row + 1).arg(title);
    }
    case reference:
        return from_std(format_fixed(p.reference, m_decimals) + " ± " + format_fixed(p.u_reference, m_decimals));
    case indication: return from_std(format_fixed(p.indication, m_decimals));
    case error: return signed_text(error_found(p, m_before));
    case left_over:
        return m_fit && p.counts() ? signed_text(m_fit->at(p.indication) - p.reference) : QStringLiteral("—");
    default: return from_std(p.set_aside);
    }
}

QVariant PointModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= rowCount()) return {};
    const CalibrationPoint& p = m_points[static_cast<std::size_t>(index.row())];
    switch (role) {
    case Qt::DisplayRole: return text(p, index.row(), index.column());
    case Qt::EditRole: return from_std(p.set_aside);
    case Qt::CheckStateRole:
        return index.column() == which ? QVariant(p.counts() ? Qt::Checked : Qt::Unchecked) : QVariant();
    case Qt::TextAlignmentRole:
        return index.column() == which || index.column() == reason
                   ? QVariant(int(Qt::AlignLeft | Qt::AlignVCenter))
                   : QVariant(int(Qt::AlignRight | Qt::AlignVCenter));
    case Qt::ForegroundRole: return p.counts() ? m_context.theme().colours().ink : m_context.theme().colours().soft;
    case Qt::FontRole:
        if (index.column() != which && index.column() != reason) return m_context.theme().mono(12);
        return {};
    case Qt::ToolTipRole:
        return text(p, index.row(), which) + QLatin1Char('\n') +
               tr("taken at %1; untick it to set it aside, then write why")
                   .arg(date_said(p.time, "d MMM yyyy, HH:mm:ss"));
    default: return {};
    }
}

QVariant PointModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal) return {};
    if (role == Qt::TextAlignmentRole)
        return int((section == which || section == reason ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
    if (role != Qt::DisplayRole) return {};
    const QString unit = from_std(unit_symbol(m_unit));
    switch (section) {
    case which: return tr("point");
    case reference: return unit.isEmpty() ? tr("reference") : tr("reference, %1").arg(unit);
    case indication: return tr("indication");
    case error: return tr("error");
    case left_over: return tr("left over");
    default: return tr("set aside because");
    }
}

Qt::ItemFlags PointModel::flags(const QModelIndex& index) const {
    Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    if (index.column() == which) flags |= Qt::ItemIsUserCheckable;
    if (index.column() == reason && !m_points[static_cast<std::size_t>(index.row())].counts())
        flags |= Qt::ItemIsEditable;
    return flags;
}

bool PointModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role == Qt::CheckStateRole && index.column() == which) {
        emit setAside(index.row(), value.toInt() == Qt::Checked ? QString() : tr("no reason given"));
        return true;
    }
    if (role == Qt::EditRole && index.column() == reason) {
        emit setAside(index.row(),
                      value.toString().trimmed().isEmpty() ? tr("no reason given") : value.toString().trimmed());
        return true;
    }
    return false;
}

PointTable::PointTable(Context& context, QWidget* parent) : QTableView(parent), m_context(context) {
    m_model = new PointModel(context, this);
    setModel(m_model);
    setObjectName(QStringLiteral("pointTable"));
    setAccessibleName(tr("Points of this calibration"));
    setFrameShape(QFrame::NoFrame);
    setShowGrid(false);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setWordWrap(false);
    setTextElideMode(Qt::ElideRight);
    setTabKeyNavigation(false);
    verticalHeader()->hide();
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setSectionResizeMode(QHeaderView::Interactive);
    horizontalHeader()->setSectionResizeMode(PointModel::which, QHeaderView::Stretch);
    horizontalHeader()->setMinimumSectionSize(m_context.theme().px(40));
    const auto reasons = [this] { // the column is there when there is a reason in it
        bool any = false;
        for (int row = 0; row < m_model->rowCount() && !any; ++row)
            any = !m_model->index(row, PointModel::reason).data().toString().isEmpty();
        setColumnHidden(PointModel::reason, !any);
    };
    connect(m_model, &QAbstractItemModel::dataChanged, this, reasons);
    connect(m_model, &QAbstractItemModel::modelReset, this, [this, reasons] {
        reasons();
        updateGeometry();
        if (m_model->rowCount() > 0) scrollToBottom();
    });
    connect(&context.theme(), &Theme::changed, this, &PointTable::restyle);
    restyle();
}

void PointTable::restyle() {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    setStyleSheet(
        QStringLiteral("QTableView{background:transparent;border:none;color:%1;"
                       "selection-background-color:%2;selection-color:%1;outline:none}"
                       "QTableView::item{border-bottom:1px solid %3;padding:0 4px}"
                       "QHeaderView{background:transparent;border:none}"
                       "QHeaderView::section{background:transparent;border:none;border-bottom:1px solid %3;"
                       "color:%4;padding:0 4px}"
                       "QTableView::indicator{width:%5px;height:%5px;border:1px solid %4;background:%6}"
                       "QTableView::indicator:checked{border:1px solid %7;background:%7}")
            .arg(t.ink.name(), t.selected.name(), t.rule.name(), t.soft.name())
            .arg(theme.px(11))
            .arg(t.sheet.name(), t.accent.name()));
    verticalHeader()->setDefaultSectionSize(theme.px(24));
    for (const auto& [column, width] : {std::pair{PointModel::reference, 112},
                                        std::pair{PointModel::indication, 68}, std::pair{PointModel::error, 50},
                                        std::pair{PointModel::left_over, 58}, std::pair{PointModel::reason, 130}})
        setColumnWidth(column, theme.px(width));
}

QSize PointTable::sizeHint() const {
    const int rows = std::clamp(m_model->rowCount(), 2, 6);
    return {m_context.theme().px(480),
            m_context.theme().px(24) * rows + horizontalHeader()->sizeHint().height() + 4};
}

QSize PointTable::minimumSizeHint() const {
    return {m_context.theme().px(260), std::min(sizeHint().height(), m_context.theme().px(110))};
}

} // namespace cognitum
