/// Lamps in air and on surfaces as a frame renders them: against reference paths, source by source, and by Reach.
#include "lamps.h"
#include "light/panorama.h"
#include "light/sky.h"
#include "light/sun_position.h"
#include "render/frame.h"
#include "render/path_integrator.h"
#include "render/still.h"
#include "support.h"

#include <QTemporaryDir>

using namespace hygros;
using namespace hygros::render;
using light::Lamp;
using shot::Shot;
using test::lampOf;

namespace {
const std::atomic<bool> never{false};

/// The floor, and a square over it under the lamp.
std::shared_ptr<const geometry::RayScene> withLid(float height, float half)
{
    auto set = std::make_shared<geometry::SetGeometry>();
    const auto quad = [&](float y, float h, float x, float z) {
        geometry::Mesh m;
        m.positions = {Vec3(x - h, y, z - h), Vec3(x + h, y, z - h), Vec3(x + h, y, z + h), Vec3(x - h, y, z + h)};
        m.normals.assign(4, Vec3(0, 1, 0));
        m.indices = {0, 2, 1, 0, 3, 2};
        set->meshes.push_back(m);
    };
    quad(0.f, 60.f, 0.f, 0.f);
    quad(height, half, 0.5f, -6.f);
    set->materials.emplace_back();
    set->materials[0].roughness = 1.f;
    set->triangles = 4;
    JobControl job;
    return std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{{set, Mat4()}}, job);
}
std::shared_ptr<Shot> stage(std::vector<Lamp> lamps, float sigma = 0.01f)
{
    auto s = std::make_shared<Shot>();
    s->scene = test::plate(0.f, 60.f);
    s->setIds = {"floor"};
    s->media = {test::uniformAir(sigma, 0.3f)};
    s->media[0].id = "air";
    s->lamps = std::move(lamps);
    s->camera = {Vec3(0, 1.6f, 4.f), Vec3(0, 1.2f, -6.f), 30.f, 36.f};
    return s;
}
Layers rendered(const std::shared_ptr<const Shot>& s, int passes = 6, LayerWish wish = {}, int width = 64,
                int height = 36)
{
    JobControl job;
    StillSettings settings{width, height, passes};
    settings.followsPaths = false; // beams are the march's own affair
    settings.layers = wish;
    return renderStill(s, settings, job);
}
std::vector<float> beauty(const Layers& l)
{
    std::vector<float> b(l.plate.size());
    for (std::size_t i = 0; i < b.size(); ++i)
        b[i] = l.plate[i] * l.transmittance[i] + l.air[i];
    return b;
}
double mean(const std::vector<float>& v) { return std::accumulate(v.begin(), v.end(), 0.0) / double(v.size()); }
const std::vector<float>& layer(const std::vector<Layers::ByLamp>& all, const std::string& id)
{
    const auto found = std::find_if(all.begin(), all.end(), [&](const Layers::ByLamp& l) { return l.id == id; });
    if (found == all.end())
        qFatal("no layer %s", id.c_str());
    return found->air;
}
/// Mean of the air by paths: until what sixteen passes say differs so little that the mean is known to 0.6 %, or so
/// many passes (a spot's light thrown forward is still 3 % by chance after 160).
double settledAir(const std::shared_ptr<const Shot>& s, int most)
{
    PathIntegrator paths(s, 64, 36);
    double all = 0.0, sum = 0.0, squares = 0.0;
    int n = 0;
    for (int pass = 1; pass <= most; ++pass) {
        paths.pass();
        if (pass % 16 != 0)
            continue;
        const double now = mean(paths.layers().air) * pass, own = (now - all) / 16.0;
        all = now;
        ++n;
        sum += own;
        squares += own * own;
        const double middle = sum / n,
                     error = std::sqrt(std::max(0.0, squares / n - middle * middle) / std::max(1, n - 1));
        if (n >= 3 && error < 0.006 * middle)
            break;
    }
    return sum / n;
}
} // namespace

class TestBeams : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void everyShapeLightsAirAndFloorAsReferencePathsDo()
    {
        for (const auto shape : {Lamp::Shape::Sphere, Lamp::Shape::Spot, Lamp::Shape::Rectangle, Lamp::Shape::Disc,
                                 Lamp::Shape::Tube, Lamp::Shape::Parallel}) {
            auto s = stage({lampOf(shape)});
            s->scene = test::plate(0.f, 60.f, Vec3(0.02f));
            if (shape == Lamp::Shape::Spot) {
                light::Gobo::Settings blinds;
                blinds.pattern = light::Gobo::Pattern::Blinds;
                blinds.count = 2;
                blinds.softness = 0.2f;
                s->lamps[0].gobo = std::make_shared<light::Gobo>(blinds);
            }
            const Layers live = rendered(s, 24);
            auto bare = std::make_shared<Shot>(*s); // what the floor sends back into the air is another matter
            bare->scene = test::mattePlate(0.f, 60.f);
            PathIntegrator paths(s, 64, 36), without(bare, 64, 36);
            for (int pass = 0; pass < 32; ++pass) {
                paths.pass();
                without.pass();
            }
            const auto light = [](const Layers& l) { return mean(beauty(l)) - mean(l.air); };
            const double air = mean(live.air) / mean(without.layers().air), floor = light(live) / light(paths.layers());
            QVERIFY2(std::abs(air - 1.0) < 0.1, qPrintable(QString("shape %1: air %2").arg(int(shape)).arg(air)));
            QVERIFY2(std::abs(floor - 1.0) < 0.07,
                     qPrintable(QString("shape %1: floor %2").arg(int(shape)).arg(floor)));
        }
    }

    /// A small lamp's holder does not shade it, and so sends nothing of its light on: else a path that met it could be
    /// as bright as a hundred thousand others.
    void whatHoldsALampSendsNothingOn()
    {
        Lamp lamp = lampOf(Lamp::Shape::Sphere);
        lamp.radius = 0.05f;
        const auto light = [&](std::shared_ptr<const geometry::RayScene> scene) {
            auto s = stage({lamp}, 0.3f);
            s->scene = std::move(scene);
            PathIntegrator paths(s, 8, 8);
            Random random(7);
            double sum = 0.0;
            constexpr int looks = 100000;
            for (int i = 0; i < looks; ++i) { // from a little over the lamp to all sides
                PathIntegrator::Probe p;
                p.origin = lamp.position + Vec3(0.3f, 0.5f, 0.f);
                p.direction = cosineDirection(Vec3(0.f, 1.f, 0.f), random.next(), random.next());
                p.pixelAngle = 1e-3f;
                sum += double(luminance(paths.light(p, random, nullptr, nullptr).air));
            }
            return sum;
        };
        const double ratio = light(withLid(2.95f, 0.03f)) / light(withLid(-1.f, 0.01f)); // (1.14 if it did)
        QVERIFY2(std::abs(ratio - 1.0) < 0.05, qPrintable(QString::number(ratio)));
    }

    /// From hardly any scattering to fog of fifteen optical depths across; where light is thrown forward through thick
    /// air the diffusion of a spot's light is a coarse picture.
    void higherOrdersComeAboutWithThickness()
    {
        struct Case {
            Lamp::Shape shape;
            float g, sigma;
            double low, high;
        };
        for (const Case& c :
             {Case{Lamp::Shape::Sphere, 0.f, 0.005f, 0.94, 1.06}, Case{Lamp::Shape::Sphere, 0.f, 0.05f, 0.9, 1.15},
              Case{Lamp::Shape::Sphere, 0.f, 0.5f, 0.85, 1.25}, Case{Lamp::Shape::Sphere, 0.3f, 0.05f, 0.9, 1.15},
              Case{Lamp::Shape::Sphere, 0.3f, 0.2f, 0.9, 1.25}, Case{Lamp::Shape::Sphere, 0.8f, 0.05f, 0.6, 1.1},
              Case{Lamp::Shape::Sphere, 0.8f, 0.5f, 0.75, 1.2}, Case{Lamp::Shape::Spot, 0.3f, 0.05f, 0.85, 1.2},
              Case{Lamp::Shape::Spot, 0.f, 0.5f, 0.8, 1.45}, Case{Lamp::Shape::Spot, 0.8f, 0.2f, 0.5, 1.3}}) {
            auto s = stage({lampOf(c.shape)}, c.sigma);
            s->media[0].phase.g = c.g;
            s->scene = test::mattePlate(0.f, 60.f);
            const double live = mean(rendered(s, 8).air);
            const double ratio = live / settledAir(s, 160);
            QVERIFY2(ratio > c.low && ratio < c.high, qPrintable(QString("shape %1, g %2, extinction %3: %4")
                                                                     .arg(int(c.shape))
                                                                     .arg(double(c.g))
                                                                     .arg(double(c.sigma))
                                                                     .arg(ratio)));
        }
    }

    void shaftsBehindALowSunMatchReferencePathsPlaceByPlace()
    {
        // A fence with gaps before a sun 6° up, in haze.
        auto set = std::make_shared<geometry::SetGeometry>();
        for (int i = -6; i <= 6; ++i) {
            geometry::Mesh m;
            const float x = 1.6f * static_cast<float>(i);
            m.positions = {Vec3(x - 0.5f, -1.f, -14.f), Vec3(x + 0.5f, -1.f, -14.f), Vec3(x + 0.5f, 9.f, -14.f),
                           Vec3(x - 0.5f, 9.f, -14.f)};
            m.normals.assign(4, Vec3(0, 0, 1));
            m.indices = {0, 1, 2, 0, 2, 3};
            set->meshes.push_back(m);
        }
        geometry::Mesh floor;
        floor.positions = {Vec3(-3e3f, 0, -3e3f), Vec3(3e3f, 0, -3e3f), Vec3(3e3f, 0, 3e3f), Vec3(-3e3f, 0, 3e3f)};
        floor.normals.assign(4, Vec3(0, 1, 0));
        floor.indices = {0, 2, 1, 0, 3, 2};
        set->meshes.push_back(floor);
        set->materials.emplace_back();
        set->materials[0].baseColour = Vec3(0.05f);
        set->materials[0].roughness = 1.f;
        set->triangles = 28;
        JobControl job;
        auto s = std::make_shared<Shot>();
        s->scene = std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{{set, Mat4()}}, job);
        light::SkySettings sky;
        sky.elevation = radians(6);
        sky.azimuth = radians(8); // a little right of the axis
        sky.groundAlbedo = Vec3(0.05f);
        s->sky = std::make_shared<light::Sky>(sky);
        s->sunId = "sun";
        s->media = {test::uniformAir(0.004f, 0.6f)};
        s->media[0].top = 30.f;
        s->camera = {Vec3(0.f, 1.6f, 6.f), Vec3(0.f, 2.2f, -14.f), 30.f, 36.f};
        constexpr int width = 48, height = 27, block = 3;
        const Layers live = rendered(s, 24, {}, width, height);
        PathIntegrator paths(s, width, height);
        for (int pass = 0; pass < 480; ++pass)
            paths.pass();
        const Layers reference = paths.layers();
        // The air alone, by blocks of three pixels so that little of the paths' grain is left.
        const auto blocks = [&](const Layers& l) {
            std::vector<double> out;
            for (int y = 0; y < height; y += block)
                for (int x = 0; x < width; x += block) {
                    double total = 0.0;
                    for (int i = 0; i < block * block; ++i)
                        total += double(
                            l.air[static_cast<std::size_t>((y + i / block) * width + x + i % block) * 3 + 1]);
                    out.push_back(total);
                }
            return out;
        };
        const std::vector<double> a = blocks(live), b = blocks(reference);
        const double sum = std::accumulate(b.begin(), b.end(), 0.0),
                     off = std::accumulate(a.begin(), a.end(), 0.0) - sum;
        const auto row = a.begin() + 12 / block * (width / block);
        const auto [least, most] = std::minmax_element(row, row + width / block);
        QVERIFY2(*most > 1.3 * *least, "there are shafts");
        QVERIFY2(std::abs(off) < 0.05 * sum, qPrintable(QString("mean %1 off").arg(off / sum)));
        double difference = 0.0;
        for (std::size_t i = 0; i < a.size(); ++i)
            difference += std::abs(a[i] / (1.0 + off / sum) - b[i]);
        QVERIFY2(difference < 0.05 * sum, qPrintable(QString("by place %1").arg(difference / sum)));
    }

    void quickPicturesLightEdgesAsTheMarchDoes()
    {
        // Beside pixels that are half lid, half floor stand plain ones of the same group of eight.
        auto s = stage({lampOf(Lamp::Shape::Sphere)}, 0.002f);
        s->scene = withLid(1.2f, 0.7f);
        Frame frame(s, 96, 54);
        for (int pass = 0; pass < 8; ++pass) {
            frame.trace(pass, never);
            frame.light(never);
        }
        std::vector<float> quick, fine;
        frame.resolve(fine);
        frame.setAir(s, false);
        QVERIFY(frame.quickPicture(quick, never));
        double off = 0.0;
        int far = 0;
        for (std::size_t i = 0; i < fine.size(); ++i) {
            off += std::abs(double(quick[i]) - double(fine[i]));
            far += std::abs(quick[i] - fine[i]) > 0.2f * fine[i] + 1e-3f * float(mean(fine));
        }
        QVERIFY2(off < 0.03 * mean(fine) * double(fine.size()),
                 qPrintable(QString::number(off / (mean(fine) * double(fine.size())))));
        QVERIFY2(far < int(fine.size()) / 50, qPrintable(QString("%1 of %2 are far off").arg(far).arg(fine.size())));
    }

    void framesOfAStillNightDoNotBoil()
    {
        // Nothing moves: grain stands still from frame to frame. Where fog drifts slowly, frames differ little.
        auto s = stage({lampOf(Lamp::Shape::Spot)});
        s->media[0].noise.contrast = 0.6f;
        s->media[0].noise.scale = 3.f;
        auto next = std::make_shared<Shot>(*s);
        next->frame = 2;
        const auto first = beauty(rendered(s, 4));
        QVERIFY(first == beauty(rendered(next, 4)));
        next->media[0].noise.offset = Vec3(0.02f, 0.f, 0.f); // half a metre a second
        const auto moved = beauty(rendered(next, 4));
        double difference = 0.0;
        for (std::size_t i = 0; i < first.size(); ++i)
            difference += std::abs(double(moved[i]) - double(first[i]));
        QVERIFY2(difference < 0.03 * mean(first) * double(first.size()),
                 qPrintable(QString::number(difference / (mean(first) * double(first.size())))));
        QVERIFY(difference > 0.0);
    }

    void sourcesAddUpToThePicture()
    {
        Lamp second = lampOf(Lamp::Shape::Sphere, "second");
        second.position = Vec3(-2.f, 2.f, -9.f);
        auto s = stage({lampOf(Lamp::Shape::Spot), second});
        s->sky = std::make_shared<light::Sky>(light::SkySettings());
        s->sunId = "sun";
        const Layers l = rendered(s, 4, {true, true});
        const std::vector<float> b = beauty(l);
        for (std::size_t i = 0; i < b.size(); ++i) {
            double sum = 0.0;
            for (const auto& part : l.setBy)
                sum += double(part.air[i]);
            for (const auto& part : l.airBy)
                sum += double(part.air[i]);
            QVERIFY2(std::abs(sum - double(b[i])) < 1e-4 * double(b[i]) + 1e-6,
                     qPrintable(QString("%1 for %2").arg(sum).arg(double(b[i]))));
        }
        QCOMPARE(l.setBy.size(), std::size_t{5}); // own, sun, sky, two lamps
        QVERIFY(mean(layer(l.setBy, "lamp")) > 0.0 && mean(layer(l.setBy, "sky")) > 0.0);
        // Nothing stands in the way here: no shadow in the air but the floor's own for what is under it.
        QVERIFY(mean(layer(l.shadowBy, "lamp")) < 0.01 * mean(layer(l.airBy, "lamp")));
    }

    void aLampChangedByItsLayersIsALampRenderedAnew()
    {
        Lamp second = lampOf(Lamp::Shape::Tube, "second");
        second.position.x = -2.f;
        const auto s = stage({lampOf(Lamp::Shape::Spot), second});
        s->scatteringOrders = 1; // photons of the glow would go on coming in between
        auto other = std::make_shared<Shot>(*s);
        const Vec3 k(3.f, 0.5f, 0.f);
        other->lamps[0].intensity *= k;
        // The same looks: one frame, lit by both strengths.
        Frame frame(s, 64, 36);
        for (int pass = 0; pass < 3; ++pass)
            frame.trace(pass, never);
        const auto lit = [&](const std::shared_ptr<const Shot>& shot) {
            frame.setAir(shot, false);
            for (int march = 0; march < 3; ++march)
                frame.light(never);
        };
        lit(s);
        const Layers l = frame.layers(true);
        lit(other);
        std::vector<float> anew;
        frame.resolve(anew);
        const std::vector<float> b = beauty(l);
        const auto &set = layer(l.setBy, "lamp"), &air = layer(l.airBy, "lamp");
        double worst = 0.0;
        for (std::size_t i = 0; i < b.size(); ++i) {
            const double made = double(b[i]) + (double(k[static_cast<int>(i % 3)]) - 1.0) * double(set[i] + air[i]);
            worst = std::max(worst, std::abs(made - double(anew[i])) / (double(b[i]) + 1e-4));
        }
        QVERIFY2(worst < 1e-3, qPrintable(QString::number(worst)));
    }

    void shadowsInTheAirAreWhatIsMissingFromItsLight()
    {
        auto open = stage({lampOf(Lamp::Shape::Spot)});
        open->scatteringOrders = 1; // what comes back from floor and lid is not shadow
        auto shut = std::make_shared<Shot>(*open);
        // A lid under the lamp takes away most of its beam.
        shut->scene = withLid(2.4f, 0.7f);
        const Layers lit = rendered(open, 8), dark = rendered(shut, 8, {false, true});
        const double unshaded = mean(lit.air), left = mean(dark.air), shadow = mean(layer(dark.shadowBy, "lamp"));
        QVERIFY2(left < 0.8 * unshaded, qPrintable(QString("%1 of %2").arg(left).arg(unshaded)));
        QVERIFY2(std::abs((left + shadow) / unshaded - 1.0) < 0.12,
                 qPrintable(QString("%1 + %2 for %3").arg(left).arg(shadow).arg(unshaded)));
    }

    void anExcludedLampLeavesExactlyNothing()
    {
        auto s = stage({lampOf(Lamp::Shape::Spot), lampOf(Lamp::Shape::Sphere, "other")});
        s->lamps[0].mediaReach = {0.f};
        const Layers noAir = rendered(s, 2, {true, false});
        for (const float v : layer(noAir.airBy, "lamp"))
            QCOMPARE(v, 0.f);
        QVERIFY(mean(layer(noAir.setBy, "lamp")) > 0.0 && mean(layer(noAir.airBy, "other")) > 0.0);
        s->lamps[0].mediaReach = {};
        s->lamps[0].setReach = {0.f};
        const Layers noSet = rendered(s, 2, {true, false});
        for (const float v : layer(noSet.setBy, "lamp"))
            QCOMPARE(v, 0.f);
        QVERIFY(mean(layer(noSet.airBy, "lamp")) > 0.0);
        // Reference paths keep to it too.
        s->lamps = {s->lamps[0]};
        s->lamps[0].mediaReach = {0.f};
        PathIntegrator paths(s, 32, 18);
        paths.pass();
        QCOMPARE(mean(paths.layers().air), 0.0);
        QCOMPARE(mean(beauty(paths.layers())), 0.0);
        // Half the strength is half the light.
        s->lamps[0].mediaReach = {};
        s->lamps[0].setReach = {};
        const double whole = mean(rendered(s, 2).air);
        s->lamps[0].mediaReach = {0.5f};
        NEAR(mean(rendered(s, 2).air) / whole, 0.5, 1e-3);
    }

    void sunAndSkyKeepToTheirReachApart()
    {
        auto s = stage({});
        s->sky = std::make_shared<light::Sky>(light::SkySettings());
        s->sunId = "sun";
        s->sunReach.media = {0.f};
        Layers l = rendered(s, 2, {true, false});
        for (const float v : layer(l.airBy, "sun"))
            QCOMPARE(v, 0.f);
        QVERIFY(mean(layer(l.airBy, "sky")) > 0.0);
        s->sunReach = {};
        s->skyReach.sets = {0.f};
        l = rendered(s, 2, {true, false});
        // What is left of the sky on the floor is none; in the sky itself it shines as before.
        QVERIFY(mean(layer(l.setBy, "sun")) > 0.0);
        for (std::size_t i = l.pixels() * 3 - 60; i < l.pixels() * 3; ++i)
            QCOMPARE(layer(l.setBy, "sky")[i], 0.f);
    }

    void farLampsAreLeftOutOfThePictureTheyDoNotReach()
    {
        std::vector<Lamp> lamps{lampOf(Lamp::Shape::Spot)};
        const auto alone = rendered(stage(lamps), 3);
        for (int i = 0; i < 40; ++i) {
            Lamp far = lampOf(Lamp::Shape::Spot, "far");
            far.position = Vec3(900.f + 20.f * static_cast<float>(i), 3.f, 400.f);
            lamps.push_back(far);
        }
        const auto s = stage(lamps);
        Frame one(stage({lamps[0]}), 64, 36), many(s, 64, 36);
        for (Frame* f : {&one, &many}) {
            f->trace(0, never);
            f->light(never);
        }
        QVERIFY2(many.bytes() < one.bytes() * 11 / 10,
                 qPrintable(QString("%1 for %2").arg(many.bytes()).arg(one.bytes())));
        QVERIFY(beauty(rendered(s, 3)) == beauty(alone));
    }

    void aQuickBeamIsTheBeamWithoutShadowsAndNoise()
    {
        auto s = stage({lampOf(Lamp::Shape::Spot)});
        s->scatteringOrders = 1; // a quick beam has no glow
        const double honest = mean(rendered(s, 6).air);
        s->lamps[0].quick = true;
        NEAR(mean(rendered(s, 6).air) / honest, 1.0, 0.03);
        s->scene = withLid(2.4f, 0.7f); // that it does not see
        QVERIFY(mean(rendered(s, 6).air) > 0.9 * honest);
    }

    void costsAreSharesOfAPassAndAnExcludedLampCostsNothing()
    {
        std::vector<Lamp> lamps;
        for (int i = 0; i < 4; ++i) {
            lamps.push_back(lampOf(Lamp::Shape::Sphere, i == 0 ? "lamp" : "other"));
            lamps.back().position.x = static_cast<float>(i) - 2.f;
            lamps.back().glow = 1.f;
        }
        auto s = stage(lamps);
        const auto costOf = [](const std::shared_ptr<Shot>& shot) {
            Frame f(shot, 96, 54);
            f.trace(0, never);
            f.light(never);
            return f.costs();
        };
        const Costs with = costOf(s);
        QVERIFY(with.at("lamp") > 0.01 && with.at("lamp") < 0.9);
        QVERIFY(with.at("air") > 0.0 && with.at("air") < 0.9);
        s->lamps[0].mediaReach = {0.f};
        s->lamps[0].setReach = {0.f};
        // What it costs is told by the processor's clock, which goes on while another program has the core: the least.
        double without = 1.0;
        for (int i = 0; i < 4; ++i)
            without = std::min(without, costOf(s).at("lamp"));
        QVERIFY2(without < 0.25 * with.at("lamp"), qPrintable(QString("%1 for %2").arg(without).arg(with.at("lamp"))));
    }

    void aPanoramaKeepsItsEnergyAndGivesItsSunAway()
    {
        constexpr int w = 128, h = 64;
        std::vector<float> rgb(w * h * 3, 0.2f);
        const auto put = [&](int x, int y, float v) {
            for (std::size_t c = 0; c < 3; ++c)
                rgb[(static_cast<std::size_t>(y) * w + static_cast<std::size_t>(x)) * 3 + c] = v;
        };
        put(40, 16, 5000.f);
        put(41, 16, 5000.f);
        rgb[5] = -1.f;
        rgb[9] = std::numeric_limits<float>::quiet_NaN();
        const auto p = std::make_shared<light::Panorama>(w, h, rgb);
        QCOMPARE(p->refused(), 2);
        light::Panorama::Sun sun;
        const auto rest = p->withoutSun(sun);
        QVERIFY(sun.found);
        for (int c = 0; c < 3; ++c)
            NEAR(double(rest->total()[c] + sun.irradiance[c]), double(p->total()[c]), 1e-4);
        QVERIFY(luminance(rest->radiance(sun.direction)) < 0.3f);
        NEAR(double(p->radiance(sun.direction).y), 5000.0, 0.6);
        // Directions come by brightness: the density integrates to one and the estimate is the total.
        Random random(4);
        double estimate = 0.0;
        for (int i = 0; i < 4000; ++i) {
            float pdf;
            const Vec3 d = p->sample(random.next(), random.next(), pdf);
            NEAR(double(p->pdf(d)), double(pdf), 1e-2);
            estimate += 1.0 / double(pdf) / 4000.0;
        }
        NEAR(estimate, 4.0 * M_PI, 0.25); // the volume of directions
        // A sky of it lights a floor by the picture turned, and its sun stands where the picture has it.
        light::SkySettings settings;
        settings.panorama = p;
        settings.panoramaTurn = 1.f;
        const light::Sky sky(settings);
        QVERIFY(sky.hasSun());
        NEAR(double(sky.sunIrradiance().y), double(sun.irradiance.y), 1e-4);
        NEAR(double(luminance(sky.radiance(sky.sunDirection()))), 0.2, 0.05);
        settings.panoramaSun = false;
        const light::Sky whole(settings);
        QVERIFY(!whole.hasSun());
        QVERIFY(luminance(whole.radiance(sky.sunDirection())) > 1000.f);
        // Even light of 1 from everywhere is π on every facet.
        const auto even = std::make_shared<light::Panorama>(32, 16, std::vector<float>(32 * 16 * 3, 1.f));
        light::SkySettings white;
        white.panorama = even;
        NEAR(double(light::Sky(white).irradiance(Vec3(0.6f, 0.8f, 0)).y), M_PI, 0.01);
    }

    void moonlightIsAFewHundredThousandTimesWeakerAndNightIsNotBlack()
    {
        light::SkySettings s;
        s.elevation = radians(40);
        const double day = double(luminance(light::Sky(s).sunIrradiance()));
        s.body = light::SkySettings::Body::Moon;
        const light::Sky full(s);
        const double lux = 683.0 * double(luminance(full.sunIrradiance()));
        QVERIFY2(lux > 0.15 && lux < 0.35, qPrintable(QString::number(lux)));
        QVERIFY(day / double(luminance(full.sunIrradiance())) > 3e5);
        s.moonLit = 0.5f;
        const double half = 683.0 * double(luminance(light::Sky(s).sunIrradiance()));
        QVERIFY(half > 0.05 * lux && half < 0.15 * lux); // a half moon gives a tenth
        s.body = light::SkySettings::Body::None;
        const light::Sky stars(s);
        QVERIFY(!stars.hasSun());
        NEAR(683.0 * double(luminance(stars.radiance(Vec3(0, 1, 0)))), 2e-4, 0.1);
    }

    void theSunStandsWhereTheAlmanacSaysIt()
    {
        // Greenwich, midsummer noon: 90 − 51.48 + 23.44 = 61.96°, due south; the equator at equinox: overhead.
        const auto noon = light::sunPosition(51.48, 0.0, "2026-06-21", 12.0 + 1.9 / 60.0, 0.0);
        QVERIFY2(std::abs(noon.elevation - 61.96) < 0.1, qPrintable(QString::number(noon.elevation)));
        QVERIFY2(std::abs(noon.azimuth - 180.0) < 1.0, qPrintable(QString::number(noon.azimuth)));
        QVERIFY(light::sunPosition(0.0, 0.0, "2026-03-20", 12.13, 0.0).elevation > 89.0);
        // East in the morning, west in the evening; the clock's zone counts.
        QVERIFY(light::sunPosition(52.4, 9.7, "2026-06-21", 7.0, 2.0).azimuth < 120.0);
        QVERIFY(light::sunPosition(52.4, 9.7, "2026-06-21", 19.0, 2.0).azimuth > 240.0);
        QVERIFY(light::sunPosition(52.4, 9.7, "2026-12-21", 0.5, 1.0).elevation < -30.0);
        for (const char* bad : {"today", "2026-13-01", "2026-02-30", "2026-06-21x", ""})
            QVERIFY_THROWS_EXCEPTION(std::invalid_argument, light::sunPosition(50, 0, bad, 12, 0));
    }
};
QTEST_APPLESS_MAIN(TestBeams)
#include "test_beams.moc"
