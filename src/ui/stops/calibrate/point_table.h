// The points of a calibration as a table. A point is set aside with its box and a reason, and never deleted.
#pragma once

#include "core/calibrate/record.h"
#include "ui/context.h"

#include <QAbstractTableModel>
#include <QTableView>

namespace cognitum {

class PointModel : public QAbstractTableModel {
    Q_OBJECT

  public:
    enum Column { which, reference, indication, error, left_over, reason, columns };
    explicit PointModel(Context& context, QObject* parent = nullptr)
        : QAbstractTableModel(parent), m_context(context) {}

    /// Rows are told to the view only when their number changed; else they are only painted anew.
    void show(const Reading& reading, const std::vector<CalibrationPoint>& points, const Fit* fit);
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& = {}) const override { return columns; }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

  signals:
    void setAside(int row, const QString& reason); ///< empty: it counts again

  private:
    [[nodiscard]] QString text(const CalibrationPoint& point, int row, int column) const;

    Context& m_context;
    std::vector<CalibrationPoint> m_points;
    std::optional<AppliedCorrection> m_before;
    std::optional<Fit> m_fit;
    std::string m_unit;
    int m_decimals = 2;
};

class PointTable : public QTableView {
    Q_OBJECT

  public:
    explicit PointTable(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] PointModel* points() const { return m_model; }
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

  private:
    void restyle();
    Context& m_context;
    PointModel* m_model;
};

} // namespace cognitum
