// Paints a loom: board at the left, parts at the right with their legs as they are seen, wires with number and
// colour word, resistors as plain boxes, joins as dots. The same painting serves the screen, SVG and PDF.
#pragma once

#include "core/plan/loom/loom.h"
#include "ui/theme.h"

#include <QPainter>
#include <map>

namespace cognitum {

/// A wire's colour by its word, for this theme.
QColor wire_ink(const Theme& theme, const std::string& colour);

class LoomPainter {
  public:
    LoomPainter(const Theme& theme, const Loom& loom);
    /// Size of the whole drawing at zoom 1, in pixels of the theme.
    [[nodiscard]] QSizeF size() const { return m_size; }
    /// `current`: order of the wire that the step in hand is about; 0: none.
    void paint(QPainter& painter, int current) const;

  private:
    struct Gap {
        double left = 0, right = 0; ///< between two columns
    };
    void layLanes();
    [[nodiscard]] double rowY(int row) const;
    [[nodiscard]] QRectF box(const LoomBlock& block) const;
    [[nodiscard]] double columnLeft(int column) const;
    [[nodiscard]] double columnRight(int column) const;
    [[nodiscard]] Gap gapBefore(int column) const;
    [[nodiscard]] int columnOf(const LoomWire& wire) const;
    [[nodiscard]] double resistorX(const LoomResistor& resistor) const;
    void paintBlock(QPainter& p, const LoomBlock& block) const;
    void paintWire(QPainter& p, const LoomWire& wire, bool current) const;
    void paintWireTexts(QPainter& p, const LoomWire& wire) const;
    void paintResistor(QPainter& p, const LoomResistor& resistor) const;
    void paintLabels(QPainter& p, const LoomBlock& block) const;
    void line(QPainter& p, const QPolygonF& points, const std::string& colour, double width) const;
    [[nodiscard]] double numberX(const LoomWire& wire) const;

    const Theme& m_theme;
    const Loom& m_loom;
    std::map<std::string, int> m_lanes; ///< net → lane; only nets that bend
    double m_row_height = 40, m_head = 0, m_block_width = 0, m_gap = 0, m_gap_between = 0;
    bool m_many = false; ///< several parts: titles are short
    QSizeF m_size;
};

} // namespace cognitum
