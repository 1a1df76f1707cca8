/// Sections through a gas.
#include "lattices.h"
#include "sim/smoke/gas_file.h"
#include "sim/smoke/slice.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using namespace hygros::sim;
using test::box;
using test::eachCell;

namespace {
/// A level section through the middle of a box, at places of its cells and between.
SliceOrder through(const Lattice& l, Quality quality)
{
    SliceOrder order;
    order.quality = quality;
    order.heading = Vec3(0.8f, 0.f, 0.6f);
    order.from = l.origin + Vec3(0.1f, 5.f, 0.2f) * l.h;
    for (float d = 1.f; d < 14.f; d += 0.7f)
        order.distances.push_back(d * l.h);
    for (float y = 1.f; y < 14.f; y += 0.9f)
        order.heights.push_back(l.origin.y + y * l.h);
    return order;
}
Vec3 placeOf(const SliceOrder& order, std::size_t column, std::size_t row)
{
    Vec3 p = order.from + order.heading * order.distances[column];
    p.y = order.heights[row];
    return p;
}
} // namespace

class TestSlice : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void whatIsStraightIsReadExactly()
    {
        Lattice l = box(16, 16, 16, 0.25f);
        l.origin = Vec3(3.f, -1.f, 2.f);
        auto gas = Gas::still(l);
        gas->activity = Activity::whole(l);
        const auto heat = [](const Vec3& p) { return 40.f + 3.f * p.x - 2.f * p.y + 5.f * p.z; };
        const auto flow = [](const Vec3& p) { return Vec3(0.3f + 0.2f * p.y, 1.f - 0.1f * p.x, 0.4f * p.z); };
        for (int z = -1; z <= 16; ++z)
            for (int y = -1; y <= 16; ++y)
                for (int x = -1; x <= 16; ++x) {
                    const Vec3 p = l.middle(x, y, z), half(0.5f * l.h);
                    const auto i = l.at(x, y, z);
                    gas->heat.data()[i] = heat(p);
                    gas->soot.data()[i] = 1e-3f * p.y;
                    gas->fuel.data()[i] = 0.5f;
                    gas->x.data()[i] = flow(p - Vec3(half.x, 0, 0)).x;
                    gas->y.data()[i] = flow(p - Vec3(0, half.y, 0)).y;
                    gas->z.data()[i] = flow(p - Vec3(0, 0, half.z)).z;
                }
        media::Wind wind;
        wind.velocity = Vec3(2.f, 0.f, 0.f);
        wind.ground = -10.f;
        for (const Quality quality : {Quality::Temperature, Quality::Smoke, Quality::Speed, Quality::Fuel}) {
            const SliceOrder order = through(l, quality);
            const Slice s = sliceOf(*gas, {wind}, order);
            float least = 1e9f, most = -1e9f, fastest = 0.f;
            for (std::size_t row = 0; row < order.heights.size(); ++row)
                for (std::size_t c = 0; c < order.distances.size(); ++c) {
                    const Vec3 p = placeOf(order, c, row), v = flow(p) + wind.at(p);
                    const float wanted = quality == Quality::Temperature ? order.around + heat(p)
                                         : quality == Quality::Smoke     ? p.y
                                         : quality == Quality::Speed     ? v.length()
                                                                         : 0.5f;
                    const std::size_t i = row * order.distances.size() + c;
                    QVERIFY2(std::abs(s.values[i] - wanted) < 1e-3f,
                             qPrintable(QString("%1 for %2").arg(s.values[i]).arg(wanted)));
                    QVERIFY((s.flow[i] - Vec2(v.dot(order.heading), v.y)).length() < 1e-3f);
                    least = std::min(least, s.values[i]);
                    most = std::max(most, s.values[i]);
                    fastest = std::max(fastest, s.flow[i].length());
                }
            QCOMPARE(s.least, least);
            QCOMPARE(s.most, most);
            QCOMPARE(s.fastest, fastest);
        }
    }

    void whereNoGasIsNothingIsRead()
    {
        const Lattice l = box(16, 16, 16, 0.25f);
        auto gas = Gas::still(l);
        std::vector<std::uint8_t> on(l.blockCount(), 0);
        on[l.block(1, 0, 0)] = 1;
        gas->activity = Activity(l, on);
        SliceOrder order = through(l, Quality::Temperature);
        order.distances.push_back(100.f);
        order.heights.push_back(-3.f);
        const Slice s = sliceOf(*gas, {}, order);
        for (std::size_t row = 0; row < order.heights.size(); ++row)
            for (std::size_t c = 0; c < order.distances.size(); ++c) {
                const Vec3 cell = (placeOf(order, c, row) - l.origin) / l.h;
                const bool isOn = cell.x >= 8.f && cell.x < 16.f && cell.y >= 0.f && cell.y < 8.f && cell.z < 8.f;
                QCOMPARE(std::isnan(s.values[row * order.distances.size() + c]), !isOn);
            }
        // Of nothing at all.
        const Slice none = sliceOf(*Gas::still(l), {}, order);
        QVERIFY(std::isnan(none.values.front()));
        QCOMPARE(none.most, 0.f);
    }

    void gasAtRestHasThePressureThatHoldsIt()
    {
        // Warm gas between walls cannot rise: dp/dy is its buoyancy, ρ·g·θ/(θ + T).
        const Lattice l = box(8, 24, 8, 0.1f);
        auto gas = Gas::still(l);
        gas->activity = Activity::whole(l);
        eachCell(l, [&](int x, int y, int z) { gas->heat.data()[l.at(x, y, z)] = 60.f; });
        GasSettings s;
        s.closed.fill(true);
        s.tolerance = 1e-6f;
        GasStepper stepper(l);
        SliceOrder order;
        order.quality = Quality::Pressure;
        order.from = Vec3(0.f, 0.f, 0.4f);
        order.heading = Vec3(1.f, 0.f, 0.f);
        order.distances = {0.2f, 0.45f};
        order.heights = {0.55f, 1.85f};
        QVERIFY(std::isnan(sliceOf(*gas, {}, order).values[0])); // no step yet
        for (int i = 0; i < 40; ++i)
            gas = stepper.step(*gas, s, {}, {}, 0.03f);
        const Slice cut = sliceOf(*gas, {}, order);
        const double wanted = 1.2 * 9.81 * 60.0 / (60.0 + double(s.around)) * 1.3;
        for (std::size_t c = 0; c < 2; ++c) {
            const double rise = double(cut.values[2 + c] - cut.values[c]);
            QVERIFY2(std::abs(rise / wanted - 1.0) < 0.01, qPrintable(QString("%1 for %2 Pa").arg(rise).arg(wanted)));
        }
        // Also as it is read from what was written.
        const std::string bytes = written(*gas, s.around);
        const auto back = readGas(std::span<const char>(bytes.data(), bytes.size()));
        QVERIFY(std::abs(sliceOf(*back, {}, order).values[2] - cut.values[2]) <
                0.01f * std::abs(cut.values[2]) + 0.02f);
    }
};
QTEST_GUILESS_MAIN(TestSlice)
#include "test_slice.moc"
