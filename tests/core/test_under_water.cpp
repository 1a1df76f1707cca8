/// Light in water: what its surface mirrors and lets through, what waves gather, and how both integrators see it.
#include "finish/deliver.h"
#include "image/image.h"
#include "media/caustics.h"
#include "media/open_water.h"
#include "render/still.h"
#include "render/water_light.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>

using namespace hygros;
using namespace hygros::test;
namespace fs = std::filesystem;

namespace {
/// Level ground at a height as an OBJ file's text, and where wanted a post on it.
std::string ground(float height, bool post)
{
    const std::string y = std::to_string(height), half = "40";
    std::string text = "mtllib ground.mtl\nusemtl grey\n";
    for (const auto& [x, z] : {std::pair{"-", "-"}, std::pair{"", "-"}, std::pair{"", ""}, std::pair{"-", ""}})
        text += "v " + std::string(x) + half + " " + y + " " + z + half + "\n";
    text += "f 1 4 3 2\n";
    if (post) {
        for (int i = 0; i < 8; ++i)
            text += "v " + std::to_string(i & 1 ? 0.2 : -0.2) + " " + std::to_string(i & 2 ? 1.f : height - 0.1f) +
                    " " + std::to_string(i & 4 ? -3.8 : -4.2) + "\n";
        for (const auto& [a, b, c, d] :
             {std::array<int, 4>{1, 3, 4, 2}, {5, 6, 8, 7}, {1, 2, 6, 5}, {3, 7, 8, 4}, {1, 5, 7, 3}, {2, 4, 8, 6}}) {
            text += "f";
            for (const int i : {a, b, c, d})
                text += " " + std::to_string(i + 4);
            text += "\n";
        }
    }
    return text;
}
} // namespace

class TestUnderWater : public QObject {
    Q_OBJECT
    Store store_;
    JobControl job_;
    QTemporaryDir folder_;

    /// Water over ground, the sun high, no haze; the eye 1 m under it or over it.
    scene::Project project(float depth, float grey, const char* type, double wind = 0.0, bool post = false)
    {
        const fs::path folder = folder_.path().toStdString();
        std::ofstream(folder / "ground.mtl") << "newmtl grey\nKd " << grey << ' ' << grey << ' ' << grey << "\nNs 0\n";
        const fs::path file = folder /
                              ("ground" + std::to_string(depth) + std::to_string(grey) + (post ? "post.obj" : ".obj"));
        std::ofstream(file) << ground(-depth, post);
        scene::Project p = elements::newProject();
        p.add(*elements::findKind("set"), "Ground").set("file", file.string());
        scene::Element& w = p.add(*elements::findKind("openWater"), "Water");
        w.set("speed", wind);
        w.set("fetch", 300.0);
        w.set("type", std::string(type));
        w.set("depth", double(depth));
        p.find("sun")->set("elevation", 60.0);
        p.find("sun")->set("azimuth", 120.0);
        p.find("shot")->set("position", Vec3(0.f, 3.f, 0.f));
        p.find("shot")->set("aim", Vec3(0.f, -1.f, -4.f));
        return p;
    }
    std::vector<float> picture(const scene::Project& p, render::StillAir air, int samples, int width = 40,
                               int height = 24, bool followsPaths = false)
    {
        render::StillSettings s;
        s.width = width;
        s.height = height;
        s.samples = samples;
        s.air = air;
        s.followsPaths = followsPaths;
        return finish::beautyOf(render::renderStill(render::Shots{{elements::freeze(p, store_, job_)}}, s, job_));
    }
    static Vec3 meanOf(const std::vector<float>& rgb)
    {
        Vec3 sum(0.f);
        for (std::size_t i = 0; i + 2 < rgb.size(); i += 3)
            sum += Vec3(rgb[i], rgb[i + 1], rgb[i + 2]);
        return sum / static_cast<float>(rgb.size() / 3);
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(folder_.isValid()); }

    void waterMirrorsByFresnel()
    {
        // By angles: R = ½ (sin²(i−t)/sin²(i+t) + tan²(i−t)/tan²(i+t)).
        for (int degrees = 5; degrees < 90; degrees += 5) {
            const double i = radians(degrees), t = std::asin(std::sin(i) / 1.333),
                         s = std::sin(i - t) / std::sin(i + t), p = std::tan(i - t) / std::tan(i + t),
                         wanted = 0.5 * (s * s + p * p);
            NEAR(geometry::mirroredByWater(static_cast<float>(std::cos(i))), wanted, 0.01);
            NEAR(geometry::mirroredInWater(static_cast<float>(std::cos(t))), wanted, 0.01);
        }
        NEAR(geometry::mirroredByWater(1.f), std::pow(0.333 / 2.333, 2.0), 1e-3);
        QCOMPARE(geometry::mirroredInWater(std::cos(radians(49.f))), 1.f);
        QVERIFY(geometry::mirroredInWater(std::cos(radians(48.f))) < 0.5f);
    }

    void wavesGatherLightAndLoseNone()
    {
        media::Swell swell;
        swell.wind = 3.0;
        swell.fetch = 200.0;
        const auto modes = std::make_shared<const media::SwellModes>(swell, 256, 7u, job_);
        const auto field = std::make_shared<const media::SwellField>(modes, media::SwellMoment{1.0, 0.0, 1.0}, job_);
        media::OpenWater::Settings to;
        to.eye = Vec3(0.f, 2.f, 0.f);
        for (const float high : {70.f, 35.f}) {
            to.toSun = Vec3(0.6f * std::cos(radians(high)), std::sin(radians(high)), 0.8f * std::cos(radians(high)));
            const media::OpenWater water(field, to);
            double spread = 0.0;
            for (const float y : {-0.1f, -0.5f, -2.f, -6.f, -20.f, 0.6f, 3.f}) {
                double sum = 0.0, squares = 0.0;
                const int n = 160;
                for (int j = 0; j < n; ++j)
                    for (int i = 0; i < n; ++i) {
                        const double l = water.gathered(
                            Vec3(static_cast<float>(i - n / 2) * 0.11f, y, static_cast<float>(j - n / 2) * 0.11f));
                        sum += l;
                        squares += l * l;
                    }
                NEAR(sum / (n * n), 1.0, 0.05);
                spread = std::max(spread, std::sqrt(squares / (n * n) - std::pow(sum / (n * n), 2.0)));
            }
            QVERIFY2(spread > 0.25, qPrintable(QString::number(spread))); // and it is gathered
            QCOMPARE(water.gathered(Vec3(0.f, -50.f, 0.f)), 1.f);
            QCOMPARE(water.gathered(Vec3(900.f, -1.f, 0.f)), 1.f);
        }
        to.toSun = Vec3(0.f);
        QCOMPARE(media::OpenWater(field, to).gathered(Vec3(0.f, -1.f, 0.f)), 1.f);
    }

    void groundDarkensAsItsWaysAreLong()
    {
        // Dark ground under 1, 3 and 10 m of the clearest water, looked at straight down with the sun overhead: what is
        // left is by the way down and up, whichever integrator looks.
        for (const render::StillAir air : {render::StillAir::Live, render::StillAir::Paths}) {
            Vec3 first(0.f);
            for (const float depth : {1.f, 3.f, 10.f}) {
                const auto seen = [&](float grey) {
                    scene::Project p = project(depth, grey, "clear");
                    p.find("sun")->set("sky", 0.0);
                    p.find("shot")->set("position", Vec3(0.f, 4.f, 0.f));
                    p.find("shot")->set("aim", Vec3(0.f, 0.f, -0.02f));
                    p.find("shot")->set("focal", 300.0);
                    return meanOf(picture(p, air, often(air == render::StillAir::Live ? 8 : 256), 16, 16));
                };
                // Without what is mirrored and what the water itself sends.
                const Vec3 l = seen(0.03f) - seen(0.f);
                if (depth == 1.f)
                    first = l;
                const auto shot = elements::freeze(project(depth, 0.03f, "clear"), store_, job_);
                const geometry::WaterSurface& w = *shot->waters.front().surface;
                const float steep = -geometry::refracted(-shot->sky->sunDirection(), Vec3(0.f, 1.f, 0.f)).y;
                for (int c = 0; c < 3; ++c) {
                    const float lost = w.absorption()[c] + 2.f * w.back()[c],
                                left = std::exp(-(1.f + 1.f / steep) * (depth - 1.f) * lost);
                    // (Paths have what the ground scatters about in the water too.)
                    if (left > 0.05f)
                        NEAR(l[c] / first[c], left, within(air == render::StillAir::Live ? 0.03 : 0.06));
                }
            }
        }
    }

    void bothIntegratorsSeeTheSame_data()
    {
        QTest::addColumn<QString>("type");
        QTest::addColumn<float>("eye");
        QTest::addColumn<float>("aim");
        QTest::addColumn<double>("wind");
        QTest::addColumn<double>("tolerance");
        QTest::newRow("from above, clear and still") << "clear" << 3.f << -1.f << 0.0 << 0.05;
        QTest::newRow("from above, a pond in a breeze") << "pond" << 3.f << -1.f << 2.0 << 0.10;
        // (What its ground sends up lights the water too; the march leaves that out.)
        QTest::newRow("in clear water, level") << "clear" << -1.f << -1.f << 1.5 << 0.14;
        QTest::newRow("in a lake, down") << "lake" << -0.5f << -2.f << 0.0 << 0.12;
        QTest::newRow("in clear water, up") << "clear" << -2.f << 3.f << 0.0 << 0.05;
        QTest::newRow("in a pond, up") << "pond" << -1.f << 3.f << 1.5 << 0.12;
    }
    void bothIntegratorsSeeTheSame()
    {
        QFETCH(QString, type);
        QFETCH(float, eye);
        QFETCH(float, aim);
        QFETCH(double, wind);
        QFETCH(double, tolerance);
        scene::Project p = project(3.f, 0.4f, qPrintable(type), wind, true);
        p.find("shot")->set("position", Vec3(0.f, eye, 0.f));
        p.find("shot")->set("aim", Vec3(0.5f, aim, -5.f));
        const Vec3 a = meanOf(picture(p, render::StillAir::Live, often(64))),
                   b = meanOf(picture(p, render::StillAir::Paths, often(384)));
        for (int c = 0; c < 3; ++c)
            NEAR(a[c], b[c], within(tolerance));
    }

    void underWaterThereIsNoAirBeforeTheEye()
    {
        // Thick fog over the water: what is seen in it is as bright with the paths' word as without.
        scene::Project p = project(3.f, 0.4f, "clear");
        p.add(*elements::findKind("fogBank"), "Fog").set("visibility", 60.0);
        p.find("shot")->set("position", Vec3(0.f, -1.f, 0.f));
        p.find("shot")->set("aim", Vec3(0.f, -2.f, -4.f));
        const Vec3 alone = meanOf(picture(p, render::StillAir::Live, often(32)));
        const Vec3 led = meanOf(picture(p, render::StillAir::Live, often(32), 40, 24, true));
        for (int c = 0; c < 3; ++c)
            NEAR(led[c], alone[c], within(0.3));
    }

    void theSkyLiesInAWindow()
    {
        // Looked up from under still water: the sky within 48.6° of straight up, and around it the dark of the deep.
        for (const render::StillAir air : {render::StillAir::Live, render::StillAir::Paths}) {
            scene::Project p = project(8.f, 0.02f, "clear");
            p.find("sun")->set("strength", 0.0001);
            p.find("shot")->set("position", Vec3(0.f, -2.f, 0.f));
            p.find("shot")->set("aim", Vec3(0.f, 0.f, -2.f)); // 45° up
            p.find("shot")->set("focal", 36.0);
            p.find("shot")->set("sensor", 36.0);
            constexpr int n = 120;
            const std::vector<float> rgb = picture(p, air, often(32), n, n);
            const auto at = [&](int y) { return double(rgb[std::size_t(y * n + n / 2) * 3 + 1]); };
            // Down the middle column: bright above, and the edge where it falls most.
            int edge = 0;
            double most = 0.0;
            for (int y = 1; y < n - 1; ++y)
                if (const double fall = at(y - 1) - at(y + 1); fall > most) {
                    most = fall;
                    edge = y;
                }
            const double offset = (0.5 * n - 0.5 - edge) / n, // up the picture, by its height at 1 m
                fromUp = 45.0 - std::atan(offset) * 180.0 / double(pi);
            QVERIFY2(std::abs(fromUp - 48.6) < 1.0, qPrintable(QString::number(fromUp)));
            QVERIFY(at(edge - 6) > 4.0 * at(edge + 6));
        }
    }

    void waterThrowsTheSunOnWalls()
    {
        // A wall that faces away from the sun stands beside still water: it gets what the water mirrors, by Fresnel.
        const scene::Project p = project(3.f, 0.4f, "lake");
        const auto shot = elements::freeze(p, store_, job_);
        const Vec3 sun = shot->sky->sunDirection();
        Vec3 way;
        float share = 0.f;
        const Vec3 normal = Vec3(sun.x, -0.2f, sun.z).normalized();
        render::sunOffWater(*shot, Vec3(0.f, 1.f, 0.f), normal, sun, 0.f, [&](const Vec3& w, float s) {
            way = w;
            share += s;
        });
        NEAR(share, geometry::mirroredByWater(sun.y), 1e-3);
        NEAR(way.y, -sun.y, 1e-4);
        share = 0.f;
        render::sunOffWater(*shot, Vec3(0.f, 100.f, 0.f), normal, sun, 0.f, [&](const Vec3&, float s) { share += s; });
        QCOMPARE(share, 0.f); // high over it
        // Under water the sun stands steeper and comes by what is not mirrored and not taken.
        const geometry::WaterSurface& water = *shot->waters.front().surface;
        const Vec3 under = render::sunUnderWater(*shot, water, Vec3(0.f, -2.f, 0.f), sun, 0.f, way);
        NEAR(way.x, sun.x / 1.333f, 1e-4);
        const float metres = 2.f / way.y, lost = water.absorption().y + 2.f * water.back().y;
        NEAR(under.y, (1.f - geometry::mirroredByWater(sun.y)) * sun.y / way.y * std::exp(-lost * metres), 1e-3);
    }

    void theWaterAroundAPlaceIsKnown()
    {
        const scene::Project p = project(3.f, 0.4f, "lake", 4.0);
        const auto shot = elements::freeze(p, store_, job_);
        const auto& w = static_cast<const media::OpenWater&>(*shot->waters.front().surface);
        for (int i = 0; i < 40; ++i) {
            const float x = static_cast<float>(i) * 0.37f, h = w.heightAt(x, 1.f, 1e-3f);
            QVERIFY(shot->scene->waterAround(Vec3(x, h - 0.01f, 1.f)) == &w);
            QVERIFY(shot->scene->waterAround(Vec3(x, h + 0.01f, 1.f)) == nullptr);
            // From under it its underside is met where it stands.
            geometry::Hit hit;
            const Vec3 from(x, -2.f, 1.f), d = Vec3(0.3f, 1.f, -0.2f).normalized();
            QVERIFY(shot->scene->traceUnder(w, from, d, 0.f, 100.f, hit));
            const Vec3 at = from + d * hit.t;
            QVERIFY(std::abs(at.y - w.heightAt(at.x, at.z, 2e-3f)) < 0.02f);
            QVERIFY(hit.normal.y < 0.f && hit.normal.dot(d) < 0.f && hit.water == &w);
        }
    }
    /// What it mirrors, what shows through it and its foam are together what is seen of it.
    void itsPartsAddUp()
    {
        scene::Project p = project(1.5f, 0.4f, "lake", 6.0, true);
        p.find("sun")->set("azimuth", 0.0); // glints before the eye
        p.find("sun")->set("elevation", 25.0);
        for (scene::Element& e : p.elements)
            if (e.kind->id == "openWater") {
                e.set("foam", 40.0);
                e.set("spray", 0.0);
            }
        scene::Element& lamp = p.add(*elements::findKind("bulb"), "Bulb");
        lamp.set("position", Vec3(1.f, 0.6f, -3.f));
        render::StillSettings s;
        s.width = 48;
        s.height = 32;
        s.samples = 6;
        s.followsPaths = false;
        s.layers.water = true;
        const render::Layers l = render::renderStill(render::Shots{{elements::freeze(p, store_, job_)}}, s, job_);
        QCOMPARE(l.waterBy.size(), std::size_t(4));
        const auto of = [&](const char* id) -> const std::vector<float>& {
            for (const auto& part : l.waterBy)
                if (part.id == id)
                    return part.air;
            throw std::logic_error(id);
        };
        const auto &up = of("reflection"), &out = of("refraction"), &foam = of("foam"), &light = of("caustics");
        double whole = 0.0, off = 0.0, foamy = 0.0, gathered = 0.0, even = 0.0, mirrored = 0.0;
        int wet = 0, dry = 0;
        for (std::size_t i = 0; i < l.pixels(); ++i) {
            const float mask = l.waterMask[i];
            QVERIFY(mask >= 0.f && mask <= 1.f);
            dry += mask == 0.f;
            for (std::size_t c = 3 * i; c < 3 * i + 3; ++c) {
                const double behind = double(l.plate[c] * l.transmittance[c]),
                             parts = double(up[c]) + double(out[c]) + double(foam[c]);
                if (mask == 0.f)
                    QCOMPARE(parts, 0.0);
                if (mask < 1.f)
                    continue;
                ++wet;
                whole += behind;
                off += std::abs(parts - behind);
                foamy += double(foam[c]);
                mirrored += double(up[c]);
                gathered += double(light[c]);
                even += double(out[c]);
            }
        }
        QVERIFY(wet > 300);
        QVERIFY(dry > 3); // the post, and what lies behind the horizon
        QVERIFY2(off < 2e-3 * whole, qPrintable(QString::number(off / whole)));
        QVERIFY(foamy > 0.01 * whole);
        QVERIFY(mirrored > 0.1 * whole);
        // Gathered here and missing there.
        QVERIFY2(std::abs(gathered) < 0.1 * even, qPrintable(QString::number(gathered / even)));
        QVERIFY(*std::max_element(light.begin(), light.end()) > 0.f);
        QVERIFY(*std::min_element(light.begin(), light.end()) < 0.f);
        const fs::path file = fs::path(folder_.path().toStdString()) / "parts.exr";
        finish::deliverExr(file, l, {"Parts", 1, {}, true, false});
        const image::Image read = image::readImage(file);
        for (const char* name :
             {"water.reflection.R", "water.refraction.G", "water.foam.B", "water.caustics.R", "water.mask"})
            QVERIFY2(std::find(read.channels.begin(), read.channels.end(), name) != read.channels.end(), name);
        // The reference does not know them, and says so before it begins.
        s.air = render::StillAir::Paths;
        QVERIFY_THROWS_EXCEPTION(std::runtime_error,
                                 render::renderStill(render::Shots{{elements::freeze(p, store_, job_)}}, s, job_));
    }
};

QTEST_GUILESS_MAIN(TestUnderWater)
#include "test_under_water.moc"
