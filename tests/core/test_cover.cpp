/// What lies: snow as a surface of its own and on small things, leaves, and rings and splashes of drops that landed.
#include "elements/cover_file.h"
#include "elements/kinds.h"
#include "geometry/cover.h"
#include "geometry/leaf_area.h"
#include "geometry/strewn.h"
#include "image/image.h"
#include "media/splash.h"
#include "render/rain.h"
#include "render/sparkle.h"
#include "render/still.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>

using namespace hygros;
using geometry::Cover;
using geometry::CoverSettings;
namespace fs = std::filesystem;

class TestCover : public QObject {
    Q_OBJECT
    Store store_;
    JobControl job_;
    QTemporaryDir folder_;

    /// A yard of 60 m, over which other shapes stand.
    std::string yard(const char* name, const std::string& more,
                     const char* material = "newmtl stone\nKd 0.3 0.3 0.3\nNs 2\n")
    {
        const fs::path file = fs::path(folder_.path().toStdString()) / (std::string(name) + ".obj");
        std::ofstream(file.parent_path() / (std::string(name) + ".mtl")) << material;
        std::ofstream(file) << "mtllib " << name
                            << ".mtl\no yard\nusemtl stone\nv -30 0 -30\nv 30 0 -30\nv 30 0 30\nv -30 0 30\n"
                               "f 4 3 2 1\n"
                            << more;
        return file.string();
    }
    /// A box as four more vertices each for roof and floor, numbered from 5 on.
    static std::string box(float x0, float y0, float z0, float x1, float y1, float z1)
    {
        std::string out = "o box\n";
        for (const float y : {y0, y1})
            for (const auto& [x, z] : {std::pair(x0, z0), {x1, z0}, {x1, z1}, {x0, z1}})
                out += "v " + std::to_string(x) + " " + std::to_string(y) + " " + std::to_string(z) + "\n";
        return out + "f 12 11 10 9\nf 5 6 7 8\nf 5 9 10 6\nf 6 10 11 7\nf 7 11 12 8\nf 8 12 9 5\n";
    }
    std::shared_ptr<const geometry::RayScene> scene(const std::string& file)
    {
        geometry::PlacedSet p;
        p.set = geometry::importSet(file, job_);
        return std::make_shared<const geometry::RayScene>(std::vector{p}, job_);
    }
    static CoverSettings snow(float depth)
    {
        CoverSettings s;
        s.depth = depth;
        s.around = {Vec3(0.f)};
        return s;
    }
    /// How high a cover stands over places; 0 where there is none of it.
    class Depths {
    public:
        explicit Depths(const Cover& cover)
        {
            geometry::PlacedSet p;
            p.set = cover.set;
            JobControl job;
            only_ = std::make_unique<geometry::RayScene>(std::vector{p}, job);
        }
        float at(float x, float z) const
        {
            geometry::Hit hit;
            return only_->trace(Vec3(x, 3.f, z), Vec3(0, -1, 0), 0.f, 3.f, hit) ? 3.f - hit.t : 0.f;
        }

    private:
        std::unique_ptr<geometry::RayScene> only_;
    };
    scene::Project project(const std::string& file)
    {
        scene::Project p = elements::newProject();
        p.add(*elements::findKind("set"), "Yard").set("file", file);
        p.find("shot")->set("position", Vec3(0.f, 1.7f, 7.f));
        p.find("shot")->set("aim", Vec3(0.f, 0.5f, 0.f));
        return p;
    }

private Q_SLOTS:
    void crystalsGlitterAndNoLightIsAdded()
    {
        geometry::Hit hit;
        hit.sparkle = 1.f;
        const Vec3 sun = Vec3(0.3f, 0.5f, -0.8f).normalized(), eye(0.f, 1.6f, 0.f);
        // Of so many places: the mean, and how many of them shine.
        const auto over = [&](float wide, const Vec3& from, std::vector<float>* all = nullptr) {
            double sum = 0.0;
            int shine = 0, count = 0;
            for (int i = 0; i < 3000; ++i)
                for (int j = 0; j<3000; j += wide> 0.01f ? 2 : 1, ++count) {
                    const Vec3 p(0.0043f * static_cast<float>(i) - 6.f, 0.f, -3.f - 0.0043f * static_cast<float>(j));
                    const float s = render::sparkle(hit, p, sun, (from - p).normalized(), wide);
                    sum += double(s);
                    shine += s > 1.f;
                    if (all)
                        all->push_back(s);
                }
            return std::pair(sum / count, double(shine) / count);
        };
        std::vector<float> here, beside;
        const auto [mean, share] = over(0.001f, eye, &here);
        NEAR(mean, 1.0, 0.15);
        NEAR(share, 110.0 * 0.0015 * 0.0015, 0.1); // a cell's share of 110 a square metre; few are bright
        // A step to the side, and others shine.
        over(0.001f, eye + Vec3(0.5f, 0.f, 0.f), &beside);
        int both = 0, one = 0;
        for (std::size_t i = 0; i < here.size(); ++i) {
            one += here[i] > 1.f;
            both += here[i] > 1.f && beside[i] > 1.f;
        }
        QVERIFY2(both < one / 2, qPrintable(QString("%1 of %2").arg(both).arg(one)));
        // Far away there are many in what is looked at: they are even.
        NEAR(over(0.05f, eye).first, 1.0, 0.06);
        QCOMPARE(render::sparkle(hit, Vec3(0.1f), sun, sun, 2.f), 1.f);
        hit.sparkle = 0.f;
        QCOMPARE(render::sparkle(hit, Vec3(0.1f), sun, sun, 0.001f), 1.f);
    }

    void aSnowyPictureGlittersInBothIntegrators()
    {
        scene::Project p = project(yard("glitter", ""));
        p.find("sun")->set("elevation", 12.0);
        p.find("sun")->set("azimuth", 5.0);
        scene::Element& snow = p.add(*elements::findKind("snowCover"), "Snow");
        // Mean of the near ground, and the brightest of it by that.
        const auto picture = [&](double glitter, render::StillAir air) {
            snow.set("sparkle", glitter);
            render::StillSettings s;
            s.width = 160;
            s.height = 90;
            s.air = air;
            s.samples = test::often(air == render::StillAir::Paths ? 64 : 16);
            const render::Layers l = render::renderStill(render::Shots{{elements::freeze(p, store_, job_)}}, s, job_);
            double sum = 0.0, most = 0.0;
            int count = 0;
            for (int y = 55; y < 88; ++y)
                for (int x = 4; x < 156; ++x, ++count) {
                    const auto i = std::size_t((y * 160 + x) * 3 + 1);
                    const double light = double(l.plate[i] * l.transmittance[i] + l.air[i]);
                    sum += light;
                    most = std::max(most, light);
                }
            return std::pair(sum / count, most * count / sum);
        };
        const auto even = picture(0.0, render::StillAir::Live), live = picture(1.0, render::StillAir::Live),
                   paths = picture(1.0, render::StillAir::Paths);
        NEAR(live.first, even.first, test::within(0.03));
        NEAR(paths.first, live.first, test::within(0.06));
        if (!test::watched) {
            QVERIFY2(live.second > 1.3 * even.second,
                     qPrintable(QString("%1 beside %2").arg(live.second).arg(even.second)));
            QVERIFY2(paths.second > 1.3 * even.second,
                     qPrintable(QString("%1 beside %2").arg(paths.second).arg(even.second)));
        }
    }

    void openGroundHoldsWhatFell()
    {
        const auto bare = scene(yard("plain", ""));
        for (const float depth : {0.05f, 0.2f, 0.6f}) {
            const Cover cover = geometry::coverOf(*bare, snow(depth), job_);
            const Depths depths(cover);
            // Mean over the ground away from the edge, by its own surface.
            double sum = 0.0;
            int count = 0;
            for (float z = -8.f; z < 8.f; z += 0.53f)
                for (float x = -8.f; x < 8.f; x += 0.53f, ++count)
                    sum += double(depths.at(x, z));
            NEAR(sum / count, depth, 0.02);
            // Farther out it lies as well.
            QVERIFY(depths.at(25.f, 3.f) > 0.5f * depth);
        }
    }

    void noneLiesUnderARoofAndItsEdgeIsRound()
    {
        // A roof on nothing, 4 m wide and 2 m up.
        const auto bare = scene(yard("roof", box(-2.f, 2.f, -2.f, 2.f, 2.2f, 2.f)));
        CoverSettings s = snow(0.2f);
        s.spread = 0.05f;
        const Cover cover = geometry::coverOf(*bare, s, job_);
        geometry::PlacedSet p;
        p.set = cover.set;
        const geometry::RayScene only({p}, job_);
        geometry::Hit hit;
        const auto over = [&](const Vec3& from, float reach) {
            return only.trace(from, Vec3(0, -1, 0), 0.f, reach, hit) ? reach - hit.t : -1.f;
        };
        QVERIFY(over(Vec3(0.f, 1.9f, 0.f), 1.9f) < 0.f);      // dry under its middle
        QVERIFY(over(Vec3(1.4f, 1.9f, -1.4f), 1.9f) < 0.02f); // and near its edge
        NEAR(over(Vec3(0.f, 3.2f, 0.f), 1.f), 0.2, 0.35);     // it lies on top
        NEAR(over(Vec3(6.f, 1.f, 0.f), 1.f), 0.2, 0.35);
        // At the roof's edge it goes down in a round line: at a tenth of its depth in, already a good part of it.
        const float edge = over(Vec3(1.995f, 3.2f, 0.3f), 1.f), in = over(Vec3(1.9f, 3.2f, 0.3f), 1.f),
                    middle = over(Vec3(1.5f, 3.2f, 0.3f), 1.f);
        QVERIFY2(edge < 0.6f * middle && in > 0.5f * middle && in > edge,
                 qPrintable(QString("%1 %2 %3").arg(double(edge)).arg(double(in)).arg(double(middle))));
        // The line at which it ends is the roof's own, not that of the cells.
        float farthest = 0.f;
        for (const Vec3& v : cover.set->meshes[0].positions)
            if (v.y > 2.1f)
                farthest = std::max({farthest, std::abs(v.x), std::abs(v.z)});
        NEAR(farthest, 2.0, 0.01);
        // Seen from the side the roof is thicker by it: a silhouette, not a colour.
        QVERIFY(only.trace(Vec3(-5.f, 2.28f, 0.f), Vec3(1, 0, 0), 0.f, 10.f, hit));
        QVERIFY(!bare->trace(Vec3(-5.f, 2.28f, 0.f), Vec3(1, 0, 0), 0.f, 10.f, hit));
    }

    void steepGroundHoldsLessAndMeltingTakesThinPlacesFirst()
    {
        const auto tilted = [&](const char* name, float degrees) {
            const float h = 30.f * std::tan(radians(double(degrees)));
            const fs::path file = fs::path(folder_.path().toStdString()) / (std::string(name) + ".obj");
            std::ofstream(file) << "o s\nv -30 " << -h << " -30\nv 30 " << h << " -30\nv 30 " << h << " 30\nv -30 "
                                << -h << " 30\nf 4 3 2 1\n";
            return scene(file.string());
        };
        double before = 1e9;
        for (const float degrees : {0.f, 30.f, 45.f}) {
            const auto bare = tilted("slope", degrees);
            const Cover cover = geometry::coverOf(*bare, snow(0.2f), job_);
            const double mean = cover.area > 0.0 ? cover.volume / cover.area : 0.0;
            QVERIFY2(mean < before * 1.01, qPrintable(QString::number(mean)));
            before = mean;
        }
        QVERIFY(before > 0.0 && before < 0.1);
        QCOMPARE(geometry::coverOf(*tilted("wall", 60.f), snow(0.2f), job_).set->triangles, std::size_t{0});
        const auto bare = scene(yard("melts", ""));
        CoverSettings s = snow(0.2f);
        Cover was = geometry::coverOf(*bare, s, job_);
        const double whole = was.volume;
        for (const float melted : {0.3f, 0.7f, 0.9f}) {
            s.melted = melted;
            const Cover now = geometry::coverOf(*bare, s, job_);
            QVERIFY(now.volume < was.volume && now.area <= was.area);
            // What lies is what fell less what melted.
            NEAR(now.volume / whole, 1.0 - double(melted), 0.05);
            was = now;
        }
        s.melted = 1.f;
        QCOMPARE(geometry::coverOf(*bare, s, job_).set->triangles, std::size_t{0});
    }

    void windFillsTheLeeLess()
    {
        // A wall 3 m high across the wind: behind it, where flakes that come slanting do not fall, less lies.
        const auto bare = scene(yard("wall", box(-10.f, 0.f, -0.2f, 10.f, 3.f, 0.2f)));
        CoverSettings s = snow(0.3f);
        s.from = Vec3(0.f, 0.6f, 0.8f);
        const Cover cover = geometry::coverOf(*bare, s, job_);
        const Depths depths(cover);
        const float windward = depths.at(0.f, 1.5f), lee = depths.at(0.f, -1.5f), open = depths.at(0.f, -10.f);
        QVERIFY2(lee < 0.8f * windward && open > 1.15f * lee,
                 qPrintable(QString("%1 %2 %3").arg(double(windward)).arg(double(lee)).arg(double(open))));
    }

    void aStrongWindPilesItUpBehindWhatShelters()
    {
        // A wall of 1.2 m across a wind from −Z.
        const auto bare = scene(yard("fence", box(-12.f, 0.f, -0.1f, 12.f, 1.2f, 0.1f)));
        CoverSettings s = snow(0.2f);
        const Depths calm(geometry::coverOf(*bare, s, job_));
        s.drifts = 1.f;
        s.upwind = Vec3(0.f, 0.f, -1.f);
        const Depths blown(geometry::coverOf(*bare, s, job_));
        const auto mean = [](const Depths& d, float z) {
            double sum = 0.0;
            for (int i = 0; i < 40; ++i)
                sum += double(d.at(-3.f + 0.15f * static_cast<float>(i), z)) / 40.0;
            return sum;
        };
        // Deep in the lee, a tail that runs out, and the open as it was; the wall's top is swept.
        QVERIFY2(mean(blown, 2.5f) > 1.8 * mean(calm, 2.5f), qPrintable(QString::number(mean(blown, 2.5f))));
        QVERIFY(mean(blown, 2.5f) > 1.2 * mean(blown, 8.f));
        QVERIFY(mean(blown, 8.f) > 1.1 * mean(calm, 8.f));
        NEAR(mean(blown, -6.f), mean(calm, -6.f), 0.05);
        // The other way round it lies on the other side.
        s.upwind = Vec3(0.f, 0.f, 1.f);
        const Depths back(geometry::coverOf(*bare, s, job_));
        NEAR(mean(back, -2.5f), mean(blown, 2.5f), 0.1);
        // Level ground keeps what fell; a crest loses it.
        const auto level = scene(yard("open", ""));
        CoverSettings none = s;
        none.drifts = 0.f;
        const Depths even(geometry::coverOf(*level, s, job_)), fell(geometry::coverOf(*level, none, job_));
        for (const float z : {-7.f, 0.f, 6.f})
            NEAR(mean(even, z), mean(fell, z), 0.01);
        const auto terrace = scene(yard("terrace", box(-12.f, 0.f, -12.f, 12.f, 3.f, 0.f)));
        const Cover top = geometry::coverOf(*terrace, s, job_);
        geometry::PlacedSet placed;
        placed.set = top.set;
        const geometry::RayScene only(std::vector{placed}, job_);
        const auto depthOn = [&](float z) {
            double sum = 0.0;
            for (int i = 0; i < 20; ++i) {
                geometry::Hit hit;
                const float x = -2.f + 0.2f * static_cast<float>(i);
                if (only.trace(Vec3(x, 6.f, z), Vec3(0, -1, 0), 0.f, 3.f, hit))
                    sum += double(3.f - hit.t) / 20.0;
            }
            return sum;
        };
        QVERIFY2(depthOn(-0.3f) < 0.7 * depthOn(-6.f),
                 qPrintable(QString("%1 %2").arg(depthOn(-0.3f)).arg(depthOn(-6.f))));
    }

    void windMovesItFromSomeSpeedOn()
    {
        scene::Project p = project(yard("drift", box(-1.f, 0.f, -1.f, 1.f, 1.f, 1.f)));
        scene::Element& fall = p.add(*elements::findKind("snow"), "Snow");
        fall.set("rate", 3.0);
        fall.set("temperature", 262.0);
        scene::Element& lying = p.add(*elements::findKind("snowCover"), "Lying");
        lying.set("snow", fall.id);
        const auto bounds = [&](double speed, double drifts) {
            p.find(fall.id)->set("driftSpeed", speed);
            p.find(lying.id)->set("drifts", drifts);
            const auto shot = elements::freeze(p, store_, job_);
            std::string all;
            for (const shot::Note& n : shot->notes)
                if (n.element == lying.id)
                    all += n.text;
            return all;
        };
        QCOMPARE(bounds(3.0, 1.0), bounds(3.0, 0.0));
        QVERIFY(bounds(12.0, 1.0) != bounds(12.0, 0.0));
    }

    void itIsPartOfTheShotAndStaysOffWater()
    {
        scene::Project p = project(yard("shot", box(-1.f, 0.f, -1.f, 1.f, 1.f, 1.f)));
        const Vec3 eye(0.f, 1.7f, 7.f);
        geometry::Hit hit;
        const auto bare = elements::freeze(p, store_, job_);
        QVERIFY(bare->scene->trace(eye, (Vec3(3.f, 0.f, 0.f) - eye).normalized(), 0.f, 100.f, hit));
        const Vec3 stone = hit.material->baseColour;
        p.add(*elements::findKind("snowCover"), "Lying").set("depth", 0.25);
        const auto shot = elements::freeze(p, store_, job_);
        QVERIFY(shot->notes.size() == 1 && !shot->notes[0].isTrouble &&
                shot->notes[0].text.find("m²") != std::string::npos);
        QVERIFY(shot->scene->trace(eye, (Vec3(3.f, 0.f, 0.f) - eye).normalized(), 0.f, 100.f, hit));
        QVERIFY(hit.material->baseColour.x > 0.8f && stone.x < 0.4f);
        QCOMPARE(shot->setIds.at(hit.set), std::string("lying"));
        // The same again is not made anew; mute is as if it were not there.
        QCOMPARE(elements::freeze(p, store_, job_)->scene, shot->scene);
        p.find("lying")->muted = true;
        QVERIFY(elements::freeze(p, store_, job_)->scene == bare->scene);
        // Far out, beyond its surface, ground is white by itself; walls are not.
        p.find("lying")->muted = false;
        const Vec3 wall(0.f, 0.5f, 1.f);
        QVERIFY(shot->scene->trace(eye, (wall - eye).normalized(), 0.f, 100.f, hit));
        QVERIFY(hit.material->baseColour.x < 0.4f);
        // Water is as it was.
        scene::Project wet = project(yard("water", "", "newmtl stone\nKd 0.1 0.1 0.1\nPr 0.02\nNs 900\n"));
        wet.add(*elements::findKind("snowCover"), "Lying").set("depth", 0.25);
        const auto pond = elements::freeze(wet, store_, job_);
        QVERIFY(pond->scene->trace(eye, (Vec3(3.f, 0.f, 0.f) - eye).normalized(), 0.f, 100.f, hit));
        QVERIFY(hit.material->baseColour.x < 0.2f);
        // Fallen from a Snow: its rate by its hours, in the way of its wind.
        p.add(*elements::findKind("snow"), "Snow").set("rate", 3.0);
        p.find("lying")->set("snow", std::string("snow"));
        p.find("lying")->set("hours", 20.0);
        // Of two ways to say how much there is, the card has the one that counts.
        const auto shown = [&](const char* parameter) {
            const scene::Element& e = *p.find("lying");
            return scene::applies(e.kind->parameters, *scene::findParameter(e.kind->parameters, parameter),
                                  *e.settings);
        };
        QVERIFY(shown("hours") && !shown("depth"));
        p.find("lying")->set("snow", std::string());
        QVERIFY(!shown("hours") && shown("depth"));
        p.find("lying")->set("snow", std::string("snow"));
        const auto deep = elements::freeze(p, store_, job_);
        QVERIFY(deep->scene->trace(Vec3(5.f, 3.f, 0.f), Vec3(0, -1, 0), 0.f, 3.f, hit));
        NEAR(3.f - hit.t, 0.6, 0.3);
        p.find("lying")->set("hours", 0.0);
        QVERIFY(elements::freeze(p, store_, job_)->notes.front().text.find("Nothing of it lies") != std::string::npos);
    }

    void whatLiesGoesOutAsMeshAndHeights()
    {
        scene::Project p = project(yard("out", box(-2.f, 0.f, -2.f, 2.f, 1.5f, 2.f)));
        p.add(*elements::findKind("snowCover"), "Lying").set("depth", 0.2);
        const fs::path folder(folder_.path().toStdString()), ply = folder / "lying.ply", exr = folder / "lying.exr";
        elements::exportCover(p, "lying", ply, 0.0, store_, job_);
        const auto shot = elements::freeze(p, store_, job_);
        // Read again it is met where the shot's is.
        geometry::PlacedSet again;
        again.set = geometry::importSet(ply, job_);
        const geometry::RayScene mesh({again}, job_);
        geometry::Hit a, b;
        for (float x = -6.f; x < 6.f; x += 0.77f) {
            QVERIFY(mesh.trace(Vec3(x, 5.f, 0.6f), Vec3(0, -1, 0), 0.f, 9.f, a));
            QVERIFY(shot->scene->trace(Vec3(x, 5.f, 0.6f), Vec3(0, -1, 0), 0.f, 9.f, b));
            QVERIFY(std::abs(a.t - b.t) < 1e-4f);
        }
        // The other kinds of mesh file hold the same.
        for (const char* name : {"lying.obj", "lying.glb"}) {
            elements::exportCover(p, "lying", folder / name, 0.0, store_, job_);
            const auto other = geometry::importSet(folder / name, job_);
            QCOMPARE(other->triangles, again.set->triangles);
            for (int axis = 0; axis < 3; ++axis) {
                NEAR(other->bounds.min[axis], again.set->bounds.min[axis], 1e-5);
                NEAR(other->bounds.max[axis], again.set->bounds.max[axis], 1e-5);
            }
            const geometry::RayScene alike({{other, Mat4()}}, job_);
            for (float x = -6.f; x < 6.f; x += 1.7f) {
                QVERIFY(mesh.trace(Vec3(x, 5.f, 0.6f), Vec3(0, -1, 0), 0.f, 9.f, a));
                QVERIFY(alike.trace(Vec3(x, 5.f, 0.6f), Vec3(0, -1, 0), 0.f, 9.f, b));
                QVERIFY(std::abs(a.t - b.t) < 1e-4f && (a.normal - b.normal).length() < 0.01f);
            }
        }
        elements::exportCover(p, "lying", exr, 0.25, store_, job_);
        const image::Image map = image::readImage(exr);
        const int h = map.channel("height"), d = map.channel("depth");
        QVERIFY(h >= 0 && d >= 0);
        double sum = 0.0;
        int count = 0;
        for (int y = 0; y < map.height; ++y)
            for (int x = 0; x < map.width; ++x)
                if (const float* v = map.at(x, y); v[h] > 0.f) {
                    QVERIFY(v[d] >= 0.f && v[d] < 0.4f && v[h] >= v[d] - 1e-3f);
                    sum += double(v[d]);
                    ++count;
                }
        QVERIFY(count > 1000);
        NEAR(sum / count, 0.2, 0.1);
        // What cannot be is said, and nothing is written.
        THROWS_SAYING(elements::exportCover(p, "yard", ply, 0.0, store_, job_), "only a Snow cover");
        THROWS_SAYING(elements::exportCover(p, "nobody", ply, 0.0, store_, job_), "no such element");
        THROWS_SAYING(elements::exportCover(p, "lying", folder / "lying.txt", 0.0, store_, job_), ".ply");
        THROWS_SAYING(elements::exportCover(p, "lying", folder / "fine.exr", 1e-3, store_, job_), "larger cells");
        QVERIFY(!fs::exists(folder / "lying.txt") && !fs::exists(folder / "fine.exr"));
        p.find("lying")->set("melted", 1.0);
        THROWS_SAYING(elements::exportCover(p, "lying", ply, 0.0, store_, job_), "nothing of it lies");
    }

    void leavesCoverTheShareTheyAreToldTo()
    {
        for (const auto shape : {geometry::LeafShape::Broad, geometry::LeafShape::Narrow, geometry::LeafShape::Petal,
                                 geometry::LeafShape::Scrap}) {
            int inside = 0;
            for (int i = 0; i < 400; ++i)
                for (int k = 0; k < 400; ++k)
                    inside += geometry::insideLeaf(shape, (float(i) + 0.5f) / 200.f - 1.f,
                                                   (float(k) + 0.5f) / 200.f - 1.f);
            NEAR(geometry::leafArea(shape), inside / 160000.0, 0.01);
        }
        geometry::Strewn s;
        for (const auto shape : {geometry::LeafShape::Broad, geometry::LeafShape::Petal, geometry::LeafShape::Scrap})
            for (const float share : {0.1f, 0.4f}) {
                s.shape = shape;
                s.share = share;
                int under = 0, all = 0;
                Vec3 tilted;
                for (float z = -9.f; z < 9.f; z += 0.0531f)
                    for (float x = -9.f; x < 9.f; x += 0.0531f, ++all) {
                        const int tint = geometry::strewnAt(s, Vec3(x, 0.f, z), Vec3(0, 1, 0), tilted);
                        under += tint >= 0;
                        QVERIFY(tint < int(geometry::Strewn::tints));
                        QVERIFY(tint < 0 || std::abs(tilted.length() - 1.f) < 1e-4f);
                    }
                const double got = double(under) / all;
                QVERIFY2(got > 0.6 * double(share) && got < 1.6 * double(share),
                         qPrintable(QString("%1 of %2").arg(got).arg(double(share))));
            }
        Vec3 tilted;
        s.share = 0.9f;
        int onWalls = 0;
        for (float x = 0.f; x < 5.f; x += 0.05f)
            onWalls += geometry::strewnAt(s, Vec3(x, x, 0.f), Vec3(0, 0, 1), tilted) >= 0;
        QCOMPARE(onWalls, 0);
    }

    void leavesFallAsFastAsTheirWeightLetsThem()
    {
        scene::Project p = project(yard("leaves", ""));
        p.add(*elements::findKind("drift"), "Leaves").set("amount", 2.0);
        const auto shot = elements::freeze(p, store_, job_);
        QCOMPARE(shot->falling.size(), std::size_t{1});
        const media::Falling& f = shot->falling[0];
        // A tenth of a kilogram a square metre against 1.2·½·ρ·v².
        NEAR(f.classes[0].speed, std::sqrt(2.0 * 0.1 * 9.81 / (1.2 * 1.2)), 0.02);
        double flux = 0.0;
        for (const auto& c : f.classes)
            flux += double(c.number) * double(c.speed);
        NEAR(flux, 2.0, 0.02);
        // A grain of 0.2 mm of sand: by Ferguson & Church in air.
        p.find("leaves")->set("what", std::string("sand"));
        p.find("leaves")->set("mass", 1.0);
        p.find("leaves")->set("grain", 2e-4);
        const auto storm = elements::freeze(p, store_, job_);
        QVERIFY(storm->falling.empty());
        QCOMPARE(storm->media.size(), std::size_t{1});
        NEAR(storm->media[0].sigmaT, 3.0 * 1e-3 / (2650.0 * 2e-4), 1e-3);
        QVERIFY(storm->notes.back().text.find("m/s") != std::string::npos);
    }

    void aLeafIsSeenAsLargeAsItIs()
    {
        // One class of still leaves 4 m away, before a white wall: what they darken is what they cover.
        shot::Shot s;
        s.scene = test::emptyScene();
        s.camera.position = Vec3(0.f, 50.f, 0.f);
        s.camera.aim = Vec3(0.f, 50.f, -10.f);
        s.camera.focalMm = 36.f;
        media::Falling f;
        f.form = media::Falling::Form::Leaves;
        f.colours.fill(Vec3(0.f));
        f.classes = {{0.1f, 0.6f, 0.f, 9.f}};
        f.moments = {{0.0, Vec3(0.f), 1.f}};
        s.falling = {f};
        const int w = 320, h = 180;
        const render::RainPicture picture(s, w, h);
        double covered = 0.0, expected = 0.0;
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x)
                covered += 1.0 - double(picture.transmittance(x, y));
        std::vector<media::Drop> drops;
        media::dropsIn(f, 0, 0, Vec3(-12.f, 40.f, -12.f), Vec3(12.f, 60.f, 0.f), drops);
        const geometry::View view(s.camera, w, h);
        for (const media::Drop& d : drops) {
            Vec2 at;
            float depth = 0.f;
            if (!view.project(d.at, at, depth) || depth < 0.3f || at.x < 0.f || at.y < 0.f || at.x >= float(w) ||
                at.y >= float(h))
                continue;
            const float distance = (d.at - s.camera.position).length();
            const float fade = std::clamp((1.15f - distance / 9.f) / 0.3f, 0.f, 1.f);
            // Half of its own surface on average over all ways that it can stand.
            const float across = 0.1f / (depth * view.pixelAngle());
            expected += double(0.5f * geometry::leafArea(f.shape) * across * across * fade);
        }
        QVERIFY(expected > 50.0);
        QVERIFY2(covered > 0.6 * expected && covered < 1.5 * expected,
                 qPrintable(QString("%1 %2").arg(covered).arg(expected)));
    }

    void whatARoofSheltersStaysDry()
    {
        scene::Project p = project(yard("shelter", box(-2.f, 2.f, -2.f, 2.f, 2.2f, 2.f)));
        scene::Element& wet = p.add(*elements::findKind("wetGround"), "Wet");
        wet.set("wet", 1.0);
        wet.set("puddles", 0.0);
        const auto shot = elements::freeze(p, store_, job_);
        const auto roughnessAt = [&](float x, float from) {
            geometry::Hit hit;
            [&] { QVERIFY(shot->scene->trace(Vec3(x, from, 0.f), Vec3(0, -1, 0), 0.f, 5.f, hit)); }();
            return hit.material->roughness;
        };
        const float dry = roughnessAt(0.f, 1.5f);
        QVERIFY(roughnessAt(0.f, 4.f) < 0.5f * dry);  // the roof itself
        QVERIFY(roughnessAt(6.f, 1.5f) < 0.5f * dry); // and the open
    }

    void dropsThatLandedAreThoseThatFell()
    {
        // Those that passed a height within the last moments, by following each drop of the air above it.
        media::Falling f;
        f.classes = {{2e-3f, 300.f, media::rain::speed(2.f), 10.f}};
        f.wind = Vec3(2.f, 0.f, -1.f);
        f.moments = {{5.0, f.wind * 5.f, 1.f}};
        // Not fewer in a gale, when it comes in pieces.
        media::Falling gale = f;
        gale.wind = Vec3(60.f, 0.f, 20.f);
        std::vector<media::Landing> blown;
        media::landingsIn(gale, 0, 0, Vec3(-1.f, 0.f, -1.f), Vec3(1.f, 0.f, 1.f), 0.3f, 0.4f, blown);
        NEAR(double(blown.size()), 300.0 * double(f.classes[0].speed) * 4.0 * 0.4, 0.1);
        std::vector<media::Landing> landed;
        const Vec3 low(-1.f, 0.f, -1.f), high(1.f, 0.f, 1.f);
        constexpr float lasts = 0.4f;
        media::landingsIn(f, 0, 0, low, high, 0.3f, lasts, landed);
        // As many as the rate says.
        NEAR(double(landed.size()), 300.0 * double(f.classes[0].speed) * 4.0 * double(lasts), 0.1);
        // At the moment that it landed each was a drop of the air, there.
        for (std::size_t i = 0; i < landed.size(); i += 97) {
            const media::Landing& l = landed[i];
            QVERIFY(l.age >= 0.f && l.age <= lasts && l.at.x >= low.x && l.at.x < high.x);
            media::Falling then = f;
            then.moments[0].seconds -= double(l.age);
            then.moments[0].carried -= f.wind * l.age;
            std::vector<media::Drop> drops;
            media::dropsIn(then, 0, 0, l.at - Vec3(2e-3f), l.at + Vec3(2e-3f), drops);
            QCOMPARE(drops.size(), std::size_t{1});
        }
    }

    void aSplashRisesAndFallsAgain()
    {
        const Vec3 place(1.f, 2.f, 3.f), up(0, 1, 0);
        const auto at = [&](float age, float diameter = 3e-3f) {
            std::vector<media::Drop> out;
            media::splashOf(place, up, diameter, media::rain::speed(diameter * 1e3f), age, 1.f, 7u, out);
            return out;
        };
        const auto early = at(0.01f), middle = at(0.06f), late = at(0.24f);
        QVERIFY(early.size() >= 6 && middle.size() <= early.size() && late.size() < early.size());
        for (std::size_t i = 0; i < std::min(early.size(), middle.size()); ++i) {
            QVERIFY(early[i].at.y >= place.y && early[i].diameter < 1e-3f);
            // Each on its own parabola.
            const float t = 0.01f;
            const Vec3 start = early[i].velocity + Vec3(0.f, 9.81f * t, 0.f);
            const Vec3 then = place + start * 0.06f - Vec3(0.f, 0.5f * 9.81f * 0.06f * 0.06f, 0.f);
            QVERIFY(std::any_of(middle.begin(), middle.end(),
                                [&](const media::Drop& d) { return (d.at - then).length() < 1e-4f; }) ||
                    then.y < place.y);
        }
        QVERIFY(at(0.4f).empty() && at(0.05f, 0.8e-3f).empty());
        QVERIFY(at(0.02f, 4e-3f).size() > at(0.02f, 1.3e-3f).size());
        // Seen in the picture: rain on a yard has drops near the ground that rise.
        scene::Project p = project(yard("splash", ""));
        p.find("shot")->set("position", Vec3(0.f, 0.6f, 4.f));
        scene::Element& rain = p.add(*elements::findKind("rain"), "Rain");
        rain.set("rate", 40.0);
        const auto with = elements::freeze(p, store_, job_);
        rain.set("splashes", 0.0);
        const auto without = elements::freeze(p, store_, job_);
        const render::RainPicture splashing(*with, 320, 200), still(*without, 320, 200);
        QVERIFY2(splashing.drops() > still.drops() + 100,
                 qPrintable(QString("%1 %2").arg(splashing.drops()).arg(still.drops())));
    }

    void ringsStandWhereDropsLanded()
    {
        scene::Project p = project(yard("rings", ""));
        scene::Element& rain = p.add(*elements::findKind("rain"), "Rain");
        rain.set("rate", 10.0);
        scene::Element& wet = p.add(*elements::findKind("wetGround"), "Wet");
        wet.set("puddles", 1.0);
        const auto tilt = [&](const shot::Shot& shot, double& steepest) {
            double sum = 0.0;
            int count = 0;
            steepest = 0.0;
            for (float z = -2.f; z < 2.f; z += 0.037f)
                for (float x = -2.f; x < 2.f; x += 0.037f, ++count) {
                    geometry::Hit hit;
                    [&] { QVERIFY(shot.scene->trace(Vec3(x, 1.f, z), Vec3(0, -1, 0), 0.f, 2.f, hit)); }();
                    const double t = std::hypot(double(hit.normal.x), double(hit.normal.z));
                    sum += t;
                    steepest = std::max(steepest, t);
                }
            return sum / count;
        };
        double steepest = 0.0, unused = 0.0;
        const auto shot = elements::freeze(p, store_, job_);
        const double some = tilt(*shot, steepest);
        QVERIFY2(some > 1e-3 && steepest > 0.03 && steepest < 0.4,
                 qPrintable(QString("%1 %2").arg(some).arg(steepest)));
        rain.set("rate", 60.0);
        const double more = tilt(*elements::freeze(p, store_, job_), unused);
        QVERIFY2(more > 1.5 * some, qPrintable(QString("%1 %2").arg(more).arg(some)));
        // Another frame, other rings; the same frame, the same.
        p.frame = 4;
        QVERIFY(std::abs(tilt(*elements::freeze(p, store_, job_), unused) - more) < 0.5 * more);
        const auto again = elements::freeze(p, store_, job_);
        QCOMPARE(again->scene, elements::freeze(p, store_, job_)->scene);
        p.find("rain")->muted = true;
        QCOMPARE(tilt(*elements::freeze(p, store_, job_), unused), 0.0);
    }
};

QTEST_GUILESS_MAIN(TestCover)
#include "test_cover.moc"
