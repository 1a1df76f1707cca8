/// What thick air makes of a lamp's light: energy, and reference paths on surfaces and in the air.
#include "lamps.h"
#include "render/air_kernel.h"
#include "render/frame.h"
#include "render/lamp_glow.h"
#include "render/path_integrator.h"
#include "render/still.h"
#include "support.h"

using namespace hygros;
using namespace hygros::render;
using light::Lamp;
using shot::Shot;
using test::lampOf;

namespace {
std::shared_ptr<Shot> fog(const Lamp& lamp, float sigma, float g, Vec3 albedo)
{
    auto s = std::make_shared<Shot>();
    s->scene = test::emptyScene();
    s->media = {test::uniformAir(sigma, g, albedo)};
    s->lamps = {lamp};
    s->camera = {Vec3(0.f, 7.f, 3.f), Vec3(0.5f, 1.f, -6.f), 24.f, 36.f};
    return s;
}
/// Photons' light of the one lamp.
LampGlow found(const Shot& s, int photons)
{
    const AirModel air(s);
    LampGlow glow(air, 0, nullptr);
    const Flights flights(s);
    const SurfaceSampler sampler(s);
    glow.add(air, flights, sampler, photons);
    return glow;
}
} // namespace

class TestGlow : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void allLightIsSwallowedInTheEnd_data()
    {
        QTest::addColumn<double>("sigma");
        QTest::addColumn<double>("g");
        QTest::addColumn<double>("albedo");
        QTest::newRow("even") << 0.4 << 0.0 << 0.8;
        QTest::newRow("thicker") << 0.8 << 0.0 << 0.9;
        QTest::newRow("forward") << 0.8 << 0.6 << 0.8;
    }
    void allLightIsSwallowedInTheEnd()
    {
        // ∫σ(1 − ω)φ dV is all the power there is: of the straight light's share first, then of the rest. Straight
        // light goes on through σ(1 − ωg²).
        QFETCH(double, sigma);
        QFETCH(double, g);
        QFETCH(double, albedo);
        const auto s = fog(lampOf(Lamp::Shape::Sphere), float(sigma), float(g), Vec3(float(albedo)));
        const LampGlow glow = found(*s, test::often(200000));
        const Vec3 centre = s->lamps[0].position;
        double whole = 0.0;
        // Shells of radius r, each at 64 places.
        constexpr double step = 0.1;
        for (double r = 0.05; r < 39.0; r += step) {
            double shell = 0.0;
            for (int k = 0; k < 8; ++k) {
                F8 x, y, z;
                for (int i = 0; i < lanes; ++i) {
                    const double c = 1.0 - 2.0 * (k + 0.5) / 8, a = 2.0 * M_PI * (i + 0.37 * k) / 8,
                                 q = std::sqrt(1.0 - c * c);
                    x[i] = centre.x + float(r * q * std::cos(a));
                    y[i] = centre.y + float(r * c);
                    z[i] = centre.z + float(r * q * std::sin(a));
                }
                shell += double(sum(glow.at8(x, y, z).fluence[1])) / 64.0;
            }
            whole += shell * 4.0 * M_PI * r * r * step;
        }
        const double power = 4.0 * M_PI, straight = power / (sigma * (1.0 - albedo * g * g)),
                     all = power / (sigma * (1.0 - albedo));
        NEAR(whole, all - straight, test::within(0.05));
    }

    void surfacesAndAirAreLitAsByReferencePaths_data()
    {
        QTest::addColumn<int>("shape");
        QTest::addColumn<double>("sigma");
        QTest::addColumn<double>("g");
        QTest::addColumn<double>("off"); // narrow light is blurred by the lattice
        QTest::newRow("ball") << int(Lamp::Shape::Sphere) << 0.1 << 0.0 << 0.13;
        QTest::newRow("ball, forward") << int(Lamp::Shape::Sphere) << 0.2 << 0.7 << 0.22;
        QTest::newRow("spot") << int(Lamp::Shape::Spot) << 0.2 << 0.5 << 0.28;
        QTest::newRow("panel") << int(Lamp::Shape::Rectangle) << 0.15 << 0.3 << 0.13;
        QTest::newRow("beam") << int(Lamp::Shape::Parallel) << 0.2 << 0.6 << 0.28;
        QTest::newRow("tube") << int(Lamp::Shape::Tube) << 0.1 << 0.8 << 0.22;
    }
    void surfacesAndAirAreLitAsByReferencePaths()
    {
        QFETCH(int, shape);
        QFETCH(double, sigma);
        QFETCH(double, g);
        QFETCH(double, off);
        const auto s = fog(lampOf(Lamp::Shape(shape)), float(sigma), float(g), Vec3(0.95f, 0.9f, 0.85f));
        s->scene = test::plate(0.f, 60.f);
        s->setIds = {"floor"};
        s->media[0].top = 12.f;
        JobControl job;
        StillSettings marched{24, 14, test::often(16)};
        marched.followsPaths = false; // photons by themselves
        const Layers live = renderStill(s, marched, job);
        PathIntegrator paths(s, 24, 14);
        for (int pass = 0; pass < test::often(100); ++pass)
            paths.pass();
        const Layers reference = paths.layers();
        // What comes from the floor, and from the air.
        const auto mean = [](const Layers& l, std::size_t c, bool air) {
            double sum = 0.0;
            for (std::size_t i = c; i < l.air.size(); i += 3)
                sum += double(air ? l.air[i] : l.plate[i] * l.transmittance[i]);
            return sum;
        };
        QString said;
        bool good = true;
        for (std::size_t c = 0; c < 3; ++c) {
            const double set = mean(live, c, false) / mean(reference, c, false),
                         air = mean(live, c, true) / mean(reference, c, true);
            said += QString(" %1: floor %2, air %3").arg(c).arg(set).arg(air);
            good = good && std::abs(set - 1.0) < test::within(off) && std::abs(air - 1.0) < test::within(off);
        }
        QVERIFY2(good, qPrintable(said));
    }

    void anEditKeepsWhatWasFoundOut()
    {
        // Twice the fog: what photons told of the old one, scaled as diffusion changes, is nearer than diffusion alone.
        const Lamp lamp = lampOf(Lamp::Shape::Sphere);
        const auto thin = fog(lamp, 0.15f, 0.6f, Vec3(0.9f)), thick = fog(lamp, 0.25f, 0.6f, Vec3(0.9f));
        thin->scene = thick->scene = test::plate(0.f, 60.f);
        const AirModel airThick(*thick);
        const LampGlow before = found(*thin, test::often(150000)), kept(airThick, 0, &before),
                       anew(airThick, 0, nullptr), wanted = found(*thick, test::often(150000));
        double offKept = 0.0, offAnew = 0.0;
        for (int k = 1; k < 12; ++k) {
            const F8 x = f8(lamp.position.x + float(k)), y = f8(2.f), z = f8(lamp.position.z);
            const auto at = [&](const LampGlow& g) { return double(g.at8(x, y, z).fluence[1][0]); };
            offKept += std::abs(std::log(at(kept) / at(wanted)));
            offAnew += std::abs(std::log(at(anew) / at(wanted)));
        }
        QVERIFY2(test::watched || offKept < offAnew, qPrintable(QString("%1, %2").arg(offKept).arg(offAnew)));
    }
};

QTEST_APPLESS_MAIN(TestGlow)
#include "test_glow.moc"
