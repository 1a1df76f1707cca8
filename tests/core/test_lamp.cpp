/// Lamps against closed forms: irradiance, flux, profiles, gobos, change over time.
#include "base/error.h"
#include "base/random.h"
#include "image/image.h"
#include "light/lamp.h"
#include "light/modulation.h"
#include "support.h"

#include <QTemporaryDir>
#include <fstream>

using namespace hygros;
using namespace hygros::light;

namespace {
Lamp lampOf(Lamp::Shape shape)
{
    Lamp l;
    l.shape = shape;
    l.position = Vec3(0.3f, 2.f, -1.f);
    l.aimAlong(Vec3(0.2f, -0.9f, 0.3f).normalized(), 0.4f);
    l.cosOuter = std::cos(radians(38));
    l.cosInner = std::cos(radians(20));
    l.radius = 0.25f;
    l.width = 1.4f;
    l.height = 0.6f;
    l.intensity = Vec3(5.f);
    return l;
}

/// Irradiance on a surface at p with normal n for an intensity of 1, from many samples.
double irradianceAt(const Lamp& l, const Vec3& p, const Vec3& n, int side = 128)
{
    double sum = 0.0;
    for (int i = 0; i < side; ++i)
        for (int j = 0; j < side; ++j) {
            LampSample s;
            if (sampleLamp(l, p, (static_cast<float>(i) + 0.5f) / static_cast<float>(side),
                           (static_cast<float>(j) + 0.5f) / static_cast<float>(side), s))
                sum += double(s.irradiance.y) * std::max(0.0, double(s.way.dot(n)));
        }
    return sum / (double(side) * side);
}
double meanIrradiance(const Lamp& l, const Vec3& p, int side = 128)
{
    double sum = 0.0;
    for (int i = 0; i < side; ++i)
        for (int j = 0; j < side; ++j) {
            LampSample s;
            if (sampleLamp(l, p, (static_cast<float>(i) + 0.5f) / static_cast<float>(side),
                           (static_cast<float>(j) + 0.5f) / static_cast<float>(side), s))
                sum += double(s.irradiance.y);
        }
    return sum / (double(side) * side);
}

/// A type C file with the given candela: one half plane per row.
std::string ies(const std::string& header, const std::vector<double>& gammas, const std::vector<double>& planes,
                const std::function<double(double, double)>& candela)
{
    std::string out = "IESNA:LM-63-2002\r\n[TEST] made up\r\nTILT=NONE\r\n" + header + " " +
                      std::to_string(gammas.size()) + " " + std::to_string(planes.size()) +
                      " 1 2 0.1 0.1 0.05\r\n1 1 40\r\n";
    for (const double g : gammas)
        out += std::to_string(g) + " ";
    out += "\r\n";
    for (const double p : planes)
        out += std::to_string(p) + ",";
    for (const double p : planes) {
        out += "\r\n";
        for (const double g : gammas)
            out += std::to_string(candela(g, p)) + " ";
    }
    return out;
}
std::vector<double> steps(double to, double step)
{
    std::vector<double> out;
    for (double v = 0.0; v <= to + 1e-9; v += step)
        out.push_back(v);
    return out;
}
} // namespace

class TestLamp : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void aSphereLightsAFacetByItsFormFactor()
    {
        // Wholly above the horizon: E = π L (R/d)² cos θ, with L = 1/(πR²).
        Lamp l = lampOf(Lamp::Shape::Sphere);
        for (const float d : {0.4f, 1.f, 7.f})
            for (const float tilt : {0.f, 0.5f}) {
                const Vec3 p = l.position - Vec3(0, d, 0), n(std::sin(tilt), std::cos(tilt), 0.f);
                NEAR(irradianceAt(l, p, n), double(std::cos(tilt) / (d * d)), 0.003 / double(d * d));
            }
    }

    void aDiscLightsAFacetOnItsAxisByItsFormFactor()
    {
        Lamp l = lampOf(Lamp::Shape::Disc);
        const double area = M_PI * double(l.radius * l.radius);
        for (const float d : {0.1f, 0.5f, 4.f}) {
            const double r2 = double(l.radius * l.radius), expected = M_PI / area * r2 / (r2 + double(d * d));
            const double found = irradianceAt(l, l.position + l.direction * d, -l.direction);
            QVERIFY2(std::abs(found / expected - 1.0) < 0.005,
                     qPrintable(QString("%1 m: %2 for %3").arg(double(d)).arg(found).arg(expected)));
        }
    }

    void aRectangleLightsAFacetByItsFormFactor()
    {
        // Facet parallel to it, over the middle: four corner factors.
        Lamp l = lampOf(Lamp::Shape::Rectangle);
        for (const double d : {0.2, 1.0, 6.0}) {
            const double x = double(l.width) / 2.0 / d, y = double(l.height) / 2.0 / d;
            const double corner = (x / std::hypot(1, x) * std::atan(y / std::hypot(1, x)) +
                                   y / std::hypot(1, y) * std::atan(x / std::hypot(1, y))) /
                                  (2.0 * M_PI);
            const double expected = 4.0 * corner * M_PI / double(l.width * l.height);
            NEAR(irradianceAt(l, l.position + l.direction * static_cast<float>(d), -l.direction, 200) / expected, 1.0,
                 0.005);
        }
    }

    void aTubeLightsByItsLineIntegral()
    {
        Lamp l = lampOf(Lamp::Shape::Tube);
        l.radius = 0.01f;
        for (const double h : {0.3, 2.0}) {
            const double half = double(l.width) / 2.0,
                         expected = 2.0 * half / std::hypot(half, h) / (h * double(l.width));
            NEAR(meanIrradiance(l, l.position + l.direction * static_cast<float>(h), 300) / expected, 1.0, 0.005);
        }
    }

    void wholeLampsAgreeWithTheirSamples()
    {
        Random random(11);
        for (const auto shape : {Lamp::Shape::Sphere, Lamp::Shape::Spot, Lamp::Shape::Rectangle, Lamp::Shape::Disc,
                                 Lamp::Shape::Tube, Lamp::Shape::Parallel}) {
            Lamp l = lampOf(shape);
            Gobo::Settings blinds;
            blinds.pattern = Gobo::Pattern::Blinds;
            blinds.softness = 0.1f;
            if (shape == Lamp::Shape::Spot)
                l.gobo = std::make_shared<Gobo>(blinds);
            if (shape == Lamp::Shape::Tube)
                l.radius = 0.02f; // taken as a line
            int some = 0;
            for (int k = 0; k < 200; ++k) {
                const float spread = shape == Lamp::Shape::Parallel ? 0.3f : 2.5f;
                const Vec3 p = l.position + l.direction * random.range(-1, 4) +
                               l.right * random.range(-spread, spread) + l.up * random.range(-spread, spread);
                F8 way[3], distance, tint[3];
                lampFluence8(l, f8(p.x), f8(p.y), f8(p.z), way, distance, tint);
                const double whole = double(tint[1][3]), samples = meanIrradiance(l, p, 48);
                if (samples > 1e-6)
                    ++some;
                // A disc is taken as a square of its area; near its edge that differs.
                const double near = shape == Lamp::Shape::Disc ? 0.06 : 0.015;
                QVERIFY2(std::abs(whole - samples) <= near * samples + 2e-4,
                         qPrintable(QString("shape %1: %2 for %3").arg(int(shape)).arg(whole).arg(samples)));
            }
            QVERIFY2(some > 10, qPrintable(QString::number(int(shape))));
        }
    }

    void fluxIsWhatLeavesTheLamp()
    {
        for (const auto shape :
             {Lamp::Shape::Sphere, Lamp::Shape::Spot, Lamp::Shape::Rectangle, Lamp::Shape::Disc, Lamp::Shape::Tube}) {
            Lamp l = lampOf(shape);
            l.radius = 0.01f;
            l.width = 0.05f;
            l.height = 0.02f;
            constexpr float far = 50.f;
            double flux = 0.0;
            constexpr int rings = 300, spokes = 64;
            for (int i = 0; i < rings; ++i)
                for (int j = 0; j < spokes; ++j) {
                    const float c = -1.f + 2.f * (static_cast<float>(i) + 0.5f) / rings, s = std::sqrt(1.f - c * c),
                                a = 2.f * pi * (static_cast<float>(j) + 0.5f) / spokes;
                    const Vec3 d = l.direction * c + l.right * (s * std::cos(a)) + l.up * (s * std::sin(a));
                    flux += meanIrradiance(l, l.position + d * far, 2) * double(far * far) * 4.0 * M_PI /
                            (rings * spokes);
                }
            NEAR(flux * double(intensityPerFlux(l)), 1.0, 0.01);
        }
        Lamp beam = lampOf(Lamp::Shape::Parallel);
        double flux = 0.0;
        for (int i = 0; i < 400; ++i) {
            const float r = beam.radius * (static_cast<float>(i) + 0.5f) / 400.f;
            flux += meanIrradiance(beam, beam.position + beam.direction + beam.right * r, 1) * 2.0 * M_PI *
                    double(r * beam.radius) / 400.0;
        }
        NEAR(flux * double(intensityPerFlux(beam)), 1.0, 0.005);
    }

    void aBeamLeavesItsLampAsWideAsTheLampIs()
    {
        const Lamp l = lampOf(Lamp::Shape::Spot);
        const auto lightAt = [&](float ahead, float aside) {
            F8 way[3], distance, tint[3];
            const Vec3 p = l.position + l.direction * ahead + l.right * aside;
            lampFluence8(l, f8(p.x), f8(p.y), f8(p.z), way, distance, tint);
            return tint[1][0];
        };
        QVERIFY(lightAt(0.01f, 0.2f) > 0.f);
        QCOMPARE(lightAt(0.01f, 0.3f), 0.f);
        QCOMPARE(lightAt(-0.01f, 0.f), 0.f);
        // No singularity at the lamp.
        QVERIFY(lightAt(0.001f, 0.f) < 1.5f / (0.25f * 0.25f));
    }

    void falloffThatIsNotPhysicalIsWhatItSays()
    {
        Lamp l = lampOf(Lamp::Shape::Sphere);
        l.radius = 0.01f;
        l.range = 10.f;
        const auto at = [&](float d) { return meanIrradiance(l, l.position + Vec3(d, 0, 0), 4); };
        NEAR(at(2.f), 0.25, 1e-3);
        l.falloff = Lamp::Falloff::None;
        NEAR(at(2.f), 1.0, 1e-3);
        NEAR(at(300.f), 1.0, 1e-3);
        l.falloff = Lamp::Falloff::Linear;
        NEAR(at(2.f), 0.8, 1e-3);
        QCOMPARE(at(10.5f), 0.0);
    }

    void theIntervalAlongARayHoldsAllOfTheBeam()
    {
        Random random(5);
        for (const auto shape : {Lamp::Shape::Sphere, Lamp::Shape::Spot, Lamp::Shape::Rectangle, Lamp::Shape::Disc,
                                 Lamp::Shape::Tube, Lamp::Shape::Parallel}) {
            const Lamp l = lampOf(shape);
            const std::vector<Ball> balls = ballsOf(l);
            int lit = 0;
            for (int k = 0; k < 1000; ++k) {
                const Vec3 o(random.range(-4, 4), random.range(-6, 4), random.range(-4, 4));
                const Vec3 d = Vec3(random.range(-1, 1), random.range(-1, 1), random.range(-1, 1)).normalized();
                float t0 = 0.f, t1 = 30.f;
                const bool inside = insideBeam(l, o, d, t0, t1);
                for (int i = 0; i < 60; ++i) {
                    const float t = 30.f * (static_cast<float>(i) + 0.5f) / 60.f;
                    const Vec3 p = o + d * t;
                    F8 way[3], distance, tint[3];
                    lampFluence8(l, f8(p.x), f8(p.y), f8(p.z), way, distance, tint);
                    if (tint[1][0] <= 0.f || (p - l.position).length() > l.reach())
                        continue;
                    ++lit;
                    QVERIFY2(inside && t > t0 - 1e-3f && t < t1 + 1e-3f,
                             qPrintable(QString("shape %1 at %2").arg(int(shape)).arg(double(t))));
                    QVERIFY(std::any_of(balls.begin(), balls.end(),
                                        [&](const Ball& b) { return (p - b.centre).length() <= b.radius * 1.001f; }));
                }
            }
            QVERIFY2(lit > 20, qPrintable(QString::number(int(shape))));
        }
    }

    void aSmallSourceKeepsItsLightHoweverFar()
    {
        // Mean radiance over the pixels around it times their solid angle is what arrives: 1/d².
        Lamp l = lampOf(Lamp::Shape::Sphere);
        l.radius = 0.05f;
        constexpr float pixel = 0.001f;
        for (const float d : {5.f, 60.f, 400.f}) {
            const Vec3 o = l.position + Vec3(0, 0, d);
            double sum = 0.0;
            constexpr int n = 400;
            const float wide = 4.f * std::max(l.radius / d, pixel);
            for (int i = 0; i < n; ++i)
                for (int j = 0; j < n; ++j) {
                    const float x = wide * ((static_cast<float>(i) + 0.5f) / n - 0.5f),
                                y = wide * ((static_cast<float>(j) + 0.5f) / n - 0.5f);
                    float t;
                    Vec3 radiance;
                    if (meetsSource(l, o, Vec3(x, y, -1).normalized(), pixel, 1e4f, t, radiance))
                        sum += double(radiance.y) * double(wide * wide) / (double(n) * n);
                }
            NEAR(sum * double(d * d), 1.0, 0.03);
        }
        float t;
        Vec3 radiance;
        QVERIFY(!meetsSource(l, l.position + Vec3(0, 0, 5), Vec3(0, 0, -1), pixel, 3.f, t,
                             radiance)); // something stands before it
    }

    void aProfilesFluxIsItsIntegral()
    {
        // Even: 4π · 100 cd.
        const auto even = Profile::parse(ies("1 1256.6 1", steps(180, 10), {0}, [](double, double) { return 100.0; }),
                                         "even");
        NEAR(double(even->lumen()) / (4.0 * M_PI * 100.0), 1.0, 0.01);
        NEAR(double(even->lumen()) / double(even->ratedLumen()), 1.0, 0.01);
        NEAR(double(even->candela()), 100.0, 1e-3);
        // A cosine downward: π · 200 cd; multiplier 2.
        const auto down = Profile::parse(
            ies("1 -1 2", steps(90, 2.5), {0}, [](double g, double) { return 100.0 * std::cos(g * M_PI / 180.0); }),
            "down");
        NEAR(double(down->lumen()) / (M_PI * 200.0), 1.0, 0.01);
        QVERIFY(down->ratedLumen() < 0.f);
        QCOMPARE(down->relative(-0.1f, 1.f, 0.f), 0.f);
        NEAR(double(down->relative(0.5f, 1.f, 0.f)), 0.5, 0.005);
        // A lamp in lumens spreads them by its profile.
        Lamp l = lampOf(Lamp::Shape::Sphere);
        l.profile = down;
        NEAR(double(intensityPerFlux(l)), 1.0 / M_PI, 0.003);
    }

    void symmetricProfilesAreUnfolded()
    {
        const auto along = [](double, double c) { return 50.0 + 40.0 * std::cos(2.0 * c * M_PI / 180.0); };
        const auto quadrant = Profile::parse(ies("1 1000 1", steps(180, 15), steps(90, 15), along), "quadrant");
        const auto half = Profile::parse(ies("1 1000 1", steps(180, 15), steps(180, 15), along), "half");
        const auto full = Profile::parse(ies("1 1000 1", steps(180, 15), steps(360, 15), along), "full");
        for (const double c : {10.0, 100.0, 200.0, 290.0})
            for (const auto& p : {quadrant, half})
                NEAR(double(p->at(1.f, radians(c))), double(full->at(1.f, radians(c))), 1e-4);
        NEAR(double(quadrant->at(1.f, radians(0))), 1.0, 1e-3);
        NEAR(double(quadrant->at(1.f, radians(90))), 10.0 / 90.0, 2e-3);
    }

    void damagedProfilesAreRefusedInWords()
    {
        const std::string good = ies("1 1000 1", steps(180, 30), {0}, [](double, double) { return 10.0; });
        QVERIFY(Profile::parse(good, "good"));
        const auto saysOf = [](const std::string& text) {
            try {
                Profile::parse(text, "lamp.ies");
            } catch (const Error& e) {
                return QString::fromUtf8(e.what());
            }
            return QString();
        };
        QVERIFY(saysOf("hello").contains("TILT"));
        for (std::size_t cut = good.find("TILT=") + 3; cut + 12 < good.size(); cut += 7) // short of the last number
            QVERIFY2(!saysOf(good.substr(0, cut)).isEmpty(), qPrintable(QString::number(cut)));
        std::string nan = good;
        nan.replace(nan.rfind("10.0"), 4, "nan ");
        QVERIFY(saysOf(nan).contains("finite"));
        std::string negative = good;
        negative.replace(negative.rfind("10.0"), 4, "-9.0");
        QVERIFY(saysOf(negative).contains("negative"));
        std::string words = good;
        words.replace(words.rfind("10.0"), 4, "oops");
        QVERIFY(saysOf(words).contains("oops"));
        QVERIFY(saysOf(ies("1 1000 1", {0, 30, 20}, {0}, [](double, double) { return 10.0; })).contains("rise"));
        QVERIFY(saysOf(ies("1 1000 1", steps(180, 30), {0}, [](double, double) { return 0.0; })).contains("no light"));
        std::string typeB = good;
        typeB.replace(typeB.find(" 1 2 0.1"), 8, " 2 2 0.1");
        QVERIFY(saysOf(typeB).contains("type C"));
        QVERIFY_THROWS_EXCEPTION(Error, Profile::load("/nowhere/lamp.ies"));
    }

    void gobosLetThroughWhatTheySay()
    {
        for (const auto pattern : {Gobo::Pattern::Blinds, Gobo::Pattern::Breakup, Gobo::Pattern::Foliage})
            for (const float open : {0.3f, 0.7f}) {
                Gobo::Settings s;
                s.pattern = pattern;
                s.open = open;
                s.count = 6;
                NEAR(double(Gobo(s).mean().x), double(open), 0.2);
            }
        Gobo::Settings slit;
        slit.pattern = Gobo::Pattern::Slit;
        slit.open = 0.2f;
        slit.softness = 0.f;
        const Gobo g(slit);
        QVERIFY(g.at(0.f, 0.f).x > 0.99f && g.at(0.15f, 0.f).x < 0.01f && g.at(0.f, 0.5f).x > 0.99f);
        // Turned by a quarter it lies across.
        const auto turned = g.placed({pi / 2.f, Vec2(0, 0), 1.f});
        QVERIFY(turned->at(0.5f, 0.f).x > 0.99f && turned->at(0.f, 0.15f).x < 0.01f);
        // Softer edges are wider, and no light is made.
        slit.softness = 0.4f;
        const Gobo soft(slit);
        QVERIFY(soft.at(0.15f, 0.f).x > 0.05f && soft.at(0.f, 0.f).x < 0.99f);
        // Light and dark are never outside 0…1, whatever the place.
        Random random(2);
        for (int i = 0; i < 2000; ++i) {
            const float v = soft.at(random.range(-40, 40), random.range(-40, 40)).y;
            QVERIFY(v >= 0.f && v <= 1.f);
        }
    }

    void aDrawnGoboIsItsOutlines()
    {
        Gobo::Settings s;
        s.pattern = Gobo::Pattern::Drawn;
        s.softness = 0.f;
        s.outlines = outlinesOf("-0.5 -0.5, 0.5 -0.5, 0.5 0.5, -0.5 0.5; 0.7 0.7, 0.9 0.7, 0.8 0.9");
        QCOMPARE(s.outlines.size(), std::size_t{2});
        const Gobo g(s);
        QVERIFY(g.at(0.f, 0.f).x > 0.99f && g.at(0.6f, 0.f).x < 0.01f && g.at(0.8f, 0.76f).x > 0.99f);
        QCOMPARE(outlinesOf(textOf(s.outlines)).size(), std::size_t{2});
        QVERIFY_THROWS_EXCEPTION(std::invalid_argument, outlinesOf("0 0, 1 1"));
        QVERIFY_THROWS_EXCEPTION(std::invalid_argument, outlinesOf("0 0, 1 1, two three"));
    }

    void aPictureThrowsItsColours()
    {
        QTemporaryDir folder;
        const std::string file = folder.filePath("slide.exr").toStdString();
        image::Image slide(64, 32, {"R", "G", "B"});
        for (int y = 0; y < 32; ++y)
            for (int x = 0; x < 64; ++x) {
                slide.at(x, y)[0] = x < 32 ? 1.f : 0.f;
                slide.at(x, y)[2] = x < 32 ? 0.f : 0.8f;
            }
        slide.at(3, 3)[0] = -1.f;
        slide.at(40, 20)[2] = std::numeric_limits<float>::quiet_NaN();
        image::writeExr(file, slide);
        const auto g = Gobo::load(file, 0.f);
        QVERIFY(g->at(-0.5f, 0.f).x > 0.99f && g->at(-0.5f, 0.f).z < 0.01f);
        NEAR(double(g->at(0.5f, 0.f).z), 0.8, 0.01);
        QVERIFY(g->at(0.f, 0.7f).x < 0.01f); // above the picture
        QVERIFY(g->refused() > 0);
        QVERIFY_THROWS_EXCEPTION(Error, Gobo::load(folder.filePath("none.png").toStdString(), 0.f));
    }

    void changesAreTheSameEveryTimeAndWithinTheirDepth()
    {
        for (const Change c : {Change::Candle, Change::Fire, Change::FailingTube, Change::Pulse, Change::Strobe}) {
            double least = 1.0, most = 0.0;
            for (int frame = 0; frame < 500; ++frame) {
                const double s = frame / 25.0;
                const float v = strengthAt(c, s, 3.0, 0.6, 7);
                QCOMPARE(v, strengthAt(c, s, 3.0, 0.6, 7));
                least = std::min(least, double(v));
                most = std::max(most, double(v));
            }
            QVERIFY2(least >= 0.4 - 1e-6 && most <= 1.0, qPrintable(QString::number(int(c))));
            QVERIFY2(most - least > 0.2, qPrintable(QString::number(int(c))));
        }
        QCOMPARE(strengthAt(Change::Steady, 3.0, 5.0, 1.0, 1), 1.f);
        // In a loop it comes back, without a jump where that is.
        for (const Change c : {Change::Candle, Change::Fire, Change::FailingTube, Change::Pulse, Change::Strobe}) {
            double moved = 0.0;
            for (int i = 0; i < 200; ++i) {
                const double t = 0.013 + i * 0.05, v = double(strengthAt(c, t, 3.1, 0.6, 7, 10.0));
                NEAR(double(strengthAt(c, t + 10.0, 3.1, 0.6, 7, 10.0)), v, 1e-6);
                moved = std::max(moved, std::abs(v - double(strengthAt(c, 0.0, 3.1, 0.6, 7, 10.0))));
            }
            QVERIFY(moved > 0.1);
        }
        NEAR(double(strengthAt(Change::Fire, 9.9999, 3.1, 0.6, 7, 10.0)),
             double(strengthAt(Change::Fire, 0.0, 3.1, 0.6, 7, 10.0)), 2e-3);
        // A pulse repeats with its rate.
        NEAR(double(strengthAt(Change::Pulse, 1.3, 2.0, 1.0, 4)), double(strengthAt(Change::Pulse, 1.8, 2.0, 1.0, 4)),
             1e-5);
    }
};
QTEST_APPLESS_MAIN(TestLamp)
#include "test_lamp.moc"
