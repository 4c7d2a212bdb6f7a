// Vessels: closed forms by hand, a slow sum of slices beside each, monotone, back and forth, and tables that go
// back.
#include "core/physics/vessel.h"
#include "core/plan/vessel_view.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <numbers>
#include <random>

using namespace cognitum;
using namespace cognitum::physics;

namespace {

VesselShape shape_of(VesselKind kind) {
    VesselShape s{kind, 1.2, 2.5, 0.9, 1.4, {}, {}};
    if (kind == VesselKind::rounded_box) s.diameter_m = 0.4;
    if (kind == VesselKind::stack) s.sections = {shape_of(VesselKind::cone), shape_of(VesselKind::box)};
    if (kind == VesselKind::strapping) {
        s.levels_m = {0, 0.1, 0.3, 0.6, 1.0};
        s.volumes_L = {0, 12, 70, 75, 300};
    }
    return s;
}

/// Width of the section at a height, by geometry; the slow model sums it up.
double section_area(const VesselShape& s, double h) {
    using std::numbers::pi;
    const double r = s.diameter_m / 2;
    const auto chord = [](double radius, double height) {
        return 2 * std::sqrt(std::max(0.0, radius * radius - (radius - height) * (radius - height)));
    };
    switch (s.kind) {
    case VesselKind::box: return s.length_m * s.width_m;
    case VesselKind::upright_cylinder: return pi * r * r;
    case VesselKind::lying_cylinder: return s.length_m * chord(r, h);
    case VesselKind::dished_cylinder: return s.length_m * chord(r, h) + pi * chord(r, h) * chord(r, h) / 8;
    case VesselKind::cone: return pi * r * r * h * h / (s.height_m * s.height_m);
    case VesselKind::frustum: {
        const double d = s.diameter_m + (s.width_m - s.diameter_m) * h / s.height_m;
        return pi * d * d / 4;
    }
    case VesselKind::sphere: return pi * chord(r, h) * chord(r, h) / 4;
    case VesselKind::lying_oval: return s.length_m * chord(s.height_m / 2, h) * s.width_m / s.height_m;
    case VesselKind::rounded_box: return s.length_m * s.width_m - (4 - pi) * r * r;
    case VesselKind::strapping: return 0;
    case VesselKind::stack:
        for (const VesselShape& section : s.sections) {
            if (h <= vessel_height(section)) return section_area(section, h);
            h -= vessel_height(section);
        }
        return 0;
    }
    return 0;
}

} // namespace

class TestVessel : public QObject {
    Q_OBJECT

  private slots:
    void whatLiesIsCalledSo() {
        int lying = 0;
        for (const std::string& name : vessel_names()) {
            const VesselKind kind = *vessel_kind(name);
            QCOMPARE(lies(kind), vessel_title(kind).find("lying") != std::string::npos);
            lying += lies(kind);
        }
        QCOMPARE(lying, 3);
    }
    /// The width that is drawn, against the section's area that the slow sum uses, where one follows from the
    /// other.
    void widthsThatAreDrawn() {
        for (const auto kind : {VesselKind::box, VesselKind::lying_cylinder, VesselKind::lying_oval}) {
            const VesselShape s = shape_of(kind);
            for (double part = 0.05; part < 1; part += 0.05) {
                const double h = part * vessel_height(s);
                CLOSE(vessel_width(s, h), section_area(s, h) / s.length_m, 1e-9);
            }
        }
        const VesselShape cone = shape_of(VesselKind::cone);
        CLOSE(vessel_width(cone, cone.height_m / 2), cone.diameter_m / 2, 1e-12);
        QVERIFY(std::isnan(vessel_width(cone, 2)));
        QVERIFY(std::isnan(vessel_width(shape_of(VesselKind::strapping), 0.5)));
        // A lying cylinder is worst at its middle, a cone at its top.
        CLOSE(vessel_worst_level(shape_of(VesselKind::lying_cylinder), 9), 0.6, 0.011);
        CLOSE(vessel_worst_level(cone, 1.0), 1.0, 0.011);
    }

    /// A stack is what its sections hold, whichever way one walks through it.
    void aStackIsItsSections() {
        VesselShape stack;
        stack.kind = VesselKind::stack;
        stack.sections = {shape_of(VesselKind::cone), shape_of(VesselKind::upright_cylinder),
                          shape_of(VesselKind::frustum)};
        QVERIFY(check_vessel(stack));
        CLOSE(vessel_height(stack), 3 * 1.4, 1e-12);
        double whole = 0;
        for (const VesselShape& s : stack.sections)
            whole += vessel_volume(s, vessel_height(s));
        CLOSE(vessel_volume(stack, vessel_height(stack)), whole, 1e-9);
        CLOSE(vessel_volume(stack, 1.4), vessel_volume(stack.sections[0], 1.4), 1e-9);
        double before = -1;
        for (double h = 0; h <= 4.2; h += 0.07) {
            const double v = vessel_volume(stack, h);
            QVERIFY(v > before);
            before = v;
            CLOSE(vessel_level(stack, v), h, 1e-6);
        }
        stack.sections[1].kind = VesselKind::strapping;
        QVERIFY(!check_vessel(stack));
    }

    void byHand() {
        using std::numbers::pi;
        VesselShape lying{VesselKind::lying_cylinder, 1.0, 2.0, 0, 0, {}, {}};
        CLOSE(vessel_volume(lying, 0.5), 1000 * pi * 0.25, 1e-9); // half of π r² l
        CLOSE(vessel_volume(lying, 1.0), 2000 * pi * 0.25, 1e-9);
        CLOSE(vessel_litres_per_mm(lying, 0.5), 2.0, 1e-6); // as wide as its diameter there
        VesselShape box{VesselKind::box, 0, 2, 0.5, 1, {}, {}};
        CLOSE(vessel_volume(box, 0.4), 400, 1e-9);
        CLOSE(vessel_litres_per_mm(box, 0.4), 1.0, 1e-9);
        VesselShape cone{VesselKind::cone, 1, 0, 0, 1, {}, {}};
        CLOSE(vessel_volume(cone, 1), 1000 * pi / 12, 1e-9);
        CLOSE(vessel_volume(cone, 0.5), 1000 * pi / 96, 1e-9);
        VesselShape sphere{VesselKind::sphere, 2, 0, 0, 0, {}, {}};
        CLOSE(vessel_volume(sphere, 2), 4000 * pi / 3, 1e-9);
        VesselShape dished = lying;
        dished.kind = VesselKind::dished_cylinder; // each end a half ellipsoid of depth r/2
        CLOSE(vessel_volume(dished, 1.0) - vessel_volume(lying, 1.0), 1000 * 4 * pi / 3 * 0.5 * 0.5 * 0.25, 1e-9);
    }

    void everyShape_data() {
        QTest::addColumn<int>("kind");
        for (std::size_t i = 0; i < vessel_names().size(); ++i)
            QTest::addRow("%s", vessel_names()[i].c_str()) << static_cast<int>(i);
    }
    void everyShape() {
        QFETCH(int, kind);
        const VesselShape s = shape_of(static_cast<VesselKind>(kind));
        QVERIFY(check_vessel(s));
        const double height = vessel_height(s);
        CLOSE(vessel_volume(s, 0), 0, 1e-9);
        double sum = 0, before = 0;
        constexpr int slices = 20000;
        for (int i = 1; i <= slices; ++i) {
            const double h = height * i / slices;
            sum += 1000 * section_area(s, height * (i - 0.5) / slices) * height / slices;
            const double v = vessel_volume(s, std::min(h, height));
            QVERIFY2(v >= before - 1e-9, qPrintable(QString::number(h))); // never less at a higher level
            before = v;
            if (s.kind != VesselKind::strapping && i % 2000 == 0) CLOSE(v, sum, 1e-4 * vessel_volume(s, height));
        }
        std::mt19937_64 random(static_cast<std::uint64_t>(kind) + 1);
        for (int i = 0; i < 300; ++i) {
            const double level = height * std::uniform_real_distribution<double>(0.001, 1)(random);
            const double volume = vessel_volume(s, level);
            if (vessel_litres_per_mm(s, level) < 1e-3) continue; // flat: many levels hold the same
            CLOSE(vessel_level(s, volume), level, 1e-7);
        }
        QVERIFY(std::isnan(vessel_volume(s, -0.001)) && std::isnan(vessel_volume(s, height * 1.001)));
        QVERIFY(std::isnan(vessel_level(s, -1)) && std::isnan(vessel_level(s, vessel_volume(s, height) + 1)));
    }

    void aTableIsMetAndNeverOvershot() {
        const VesselShape s = shape_of(VesselKind::strapping);
        for (std::size_t i = 0; i < s.levels_m.size(); ++i)
            CLOSE(vessel_volume(s, s.levels_m[i]), s.volumes_L[i], 1e-9);
        for (std::size_t i = 0; i + 1 < s.levels_m.size(); ++i)
            for (int k = 1; k < 50; ++k) {
                const double v = vessel_volume(s, s.levels_m[i] + (s.levels_m[i + 1] - s.levels_m[i]) * k / 50);
                QVERIFY(v >= s.volumes_L[i] - 1e-9 && v <= s.volumes_L[i + 1] + 1e-9);
            }
        // A straight table stays straight.
        VesselShape straight = s;
        straight.volumes_L = {0, 20, 60, 120, 200};
        CLOSE(vessel_volume(straight, 0.47), 94, 1e-9);
    }

    void whatIsNoVesselIsSaid() {
        const auto says = [](VesselShape s) {
            return check_vessel(s) ? std::string() : check_vessel(s).error().text();
        };
        VesselShape s = shape_of(VesselKind::box);
        s.width_m = -1;
        QVERIFY2(says(s).find("width") != std::string::npos, says(s).c_str());
        s = shape_of(VesselKind::rounded_box);
        s.diameter_m = 2;
        QVERIFY2(says(s).find("wider") != std::string::npos, says(s).c_str());
        s = shape_of(VesselKind::strapping);
        std::swap(s.levels_m[1], s.levels_m[2]);
        QVERIFY2(says(s).find("row 3") != std::string::npos, says(s).c_str());
        s = shape_of(VesselKind::strapping);
        s.volumes_L[2] = std::nan("");
        QVERIFY2(says(s).find("row 3 of the table is no number") != std::string::npos, says(s).c_str());
        s = shape_of(VesselKind::strapping);
        s.levels_m[0] = 0.01;
        QVERIFY2(says(s).find("level 0") != std::string::npos, says(s).c_str());
        s = shape_of(VesselKind::strapping);
        s.volumes_L[3] = 60;
        QVERIFY2(says(s).find("holds less") != std::string::npos, says(s).c_str());
        s.levels_m.clear();
        QVERIFY2(says(s).find("two rows") != std::string::npos, says(s).c_str());
    }
    /// What is drawn and what the rule judges: the beam is widest at the lowest level; the level of a volume is
    /// that of its shape.
    void theBeamIsJudgedWhereItIsDrawn() {
        PartCard ranger;
        ranger.beam_deg = 60;
        Quantity q;
        q.kind = "level";
        q.unit = "cm";
        q.low = 10;
        q.high = 180;
        q.vessel.shape = "box";
        q.vessel.width_mm = q.vessel.length_mm = 1000;
        q.vessel.height_mm = q.vessel.mount_mm = 2000;
        const double tangent = 1 / std::sqrt(3.0);
        auto beam = beam_in_vessel(q, ranger);
        QVERIFY(beam && beam->meets_wall());
        CLOSE(beam->to_mm, 100, 1e-9); // the lower end of what is expected
        CLOSE(beam->beam_mm, 2 * 1900 * tangent, 1e-6);
        CLOSE(beam->free_mm, 1000, 1e-9);
        q.vessel.empty_mm = 1500; // the outlet: nothing is measured below it
        beam = beam_in_vessel(q, ranger);
        CLOSE(beam->half_mm, 500 * tangent, 1e-6);
        QVERIFY(!beam->meets_wall());
        q.vessel.mount_mm = 0;
        QVERIFY(!beam_in_vessel(q, ranger));
        ranger.beam_deg = 10;
        q.vessel.empty_mm = 0;
        q.low = 0;
        q.vessel.mount_mm = 2000;
        QVERIFY(!beam_in_vessel(q, ranger)->meets_wall());
        q.vessel.shape = "cone";
        QVERIFY(!beam_in_vessel(q, ranger)
                     ->meets_wall()); // its tip is narrower than any beam: nothing is measured there
        q.kind = "volume";
        q.unit = "L";
        const double litres = physics::vessel_volume(vessel_shape(q.vessel), 0.8);
        CLOSE(vessel_level_mm(q, litres), 800, 1e-6);
        QVERIFY(std::isnan(vessel_level_mm(q, 1e9)));
    }
    void aMillimetreIsWorthMostAtTheWorstLevel() {
        Quantity q;
        q.kind = "volume";
        q.vessel.shape = "lying-cylinder";
        q.vessel.width_mm = 1000;
        q.vessel.length_mm = 2000;
        q.vessel.empty_mm = 100;
        q.vessel.full_mm = 900;
        VALUE_OF(figures, vessel_figures(q, nullptr, 300));
        CLOSE(figures.worst_mm, 500, 5); // the widest level, to a hundredth
        CLOSE(figures.worst_L, 2.0, 0.01);
        CLOSE(*figures.percent_full, 25, 1e-9);
        QVERIFY(figures.here_L < figures.worst_L && !figures.part_mm);
        CLOSE(figures.top_mm, 900, 1e-9);
        VALUE_OF(unknown, vessel_figures(q, nullptr, std::nan("")));
        QVERIFY(!unknown.percent_full && std::isnan(unknown.here_L));
        q.vessel.width_mm = 0;
        QVERIFY(!vessel_figures(q, nullptr, 300));
    }
};

RUN_TESTS_OF(TestVessel)
#include "tst_vessel.moc"
