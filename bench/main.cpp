/// hygros-bench [NAME…]: the named figures, each beside a peer measured in the same run; a table and bench.json.
/// Times are minima of several runs. docs/performance.md says what each name means.
#include "base/parallel.h"
#include "elements/kinds.h"
#include "finish/display.h"
#include "fire.h"
#include "moving.h"
#include "render/frame.h"
#include "render/live.h"
#include "render/path_integrator.h"
#include "render/still.h"
#include "scene/evaluate.h"
#include "smoke.h"
#include "truth.h"
#include "volumes.h"
#include "water.h"
#include "weather.h"

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <future>
#include <iostream>
#include <numeric>

namespace {
using namespace hygros;
using Clock = std::chrono::steady_clock;
const std::atomic<bool> never{false};
constexpr int width = 960, height = 540;

struct Figure {
    std::string name;
    double value;
    std::string unit, peer;
    double peerValue, ratio, target;
    bool atLeast; ///< the ratio is to be at least the target, else at most
    bool holds() const { return target == 0.0 || (atLeast ? ratio >= target : ratio <= target); }
};

double milliseconds(const std::function<void()>& work)
{
    const auto start = Clock::now();
    work();
    return std::chrono::duration<double, std::milli>(Clock::now() - start).count();
}
double fastest(int runs, const std::function<void()>& work)
{
    double best = 1e300;
    for (int i = 0; i < runs; ++i)
        best = std::min(best, milliseconds(work));
    return best;
}

std::shared_ptr<shot::Shot> copyOf(const std::shared_ptr<const shot::Shot>& s)
{
    return std::make_shared<shot::Shot>(*s);
}

/// 3 million incoherent occlusion rays inside the lock's surroundings, all cores.
double threeMillionRays(const shot::Shot& shot)
{
    std::vector<int> hits(1024, 0);
    return fastest(3, [&] {
        parallelRanges(1024, 1, [&](std::size_t a, std::size_t b) {
            for (std::size_t block = a; block < b; ++block) {
                Random r(static_cast<std::uint32_t>(block));
                for (int i = 0; i < 3000000 / 1024; ++i) {
                    const Vec3 o(r.range(-60, 60), r.range(0, 30), r.range(-400, 20));
                    const float z = r.range(-1, 1), phi = r.range(0.f, 2.f * pi), s = std::sqrt(1.f - z * z);
                    hits[block] += shot.scene->occluded(o, Vec3(s * std::cos(phi), z, s * std::sin(phi)), 1e4f);
                }
            }
        });
    });
}

/// Encoded levels of a picture, 0…255, not rounded.
std::vector<float> levels(const finish::Display& d, const std::vector<float>& rgb)
{
    std::vector<float> out(rgb.size());
    parallelRanges(rgb.size(), 8192, [&](std::size_t a, std::size_t b) {
        for (std::size_t i = a; i < b; ++i)
            out[i] = 255.f * d.encode(rgb[i]);
    });
    return out;
}

/// A whole pass (surfaces, looks from the air, march, picture): the fastest after the first of `passes`; `bytes` gets
/// the frame's size.
double passTime(const std::shared_ptr<const shot::Shot>& shot, int passes, std::size_t* bytes = nullptr)
{
    render::Frame frame(shot, width, height);
    std::vector<float> rgb;
    double best = 1e300;
    for (int pass = 0; pass < passes; ++pass) {
        const double time = milliseconds([&] {
            frame.trace(pass, never);
            frame.light(never);
            frame.resolve(rgb);
        });
        if (pass > 0)
            best = std::min(best, time);
    }
    if (bytes)
        *bytes = frame.bytes();
    return best;
}

/// What a pass spends its time on [ms], each part the fastest after the first of `passes`.
struct PassParts {
    double surfaces = 1e300, looks = 1e300, march = 1e300, paths = 1e300, picture = 1e300, whole = 1e300;
};
PassParts partsOfAPass(const std::shared_ptr<const shot::Shot>& shot, int passes)
{
    render::Frame frame(shot, width, height);
    std::vector<float> rgb;
    PassParts best;
    for (int pass = 0; pass < passes; ++pass) {
        PassParts p;
        p.surfaces = milliseconds([&] { frame.traceSurfaces(pass, never); });
        p.looks = milliseconds([&] { frame.trace(pass, never); });
        frame.setFollowsPaths(false);
        p.march = milliseconds([&] { frame.light(never); });
        frame.setFollowsPaths(true);
        p.paths = milliseconds([&] { frame.followPaths(never); });
        p.picture = milliseconds([&] { frame.resolve(rgb); });
        p.whole = p.surfaces + p.looks + p.march + p.paths + p.picture;
        for (double PassParts::*part : {&PassParts::surfaces, &PassParts::looks, &PassParts::march, &PassParts::paths,
                                        &PassParts::picture, &PassParts::whole})
            if (pass > 0)
                best.*part = std::min(best.*part, p.*part);
    }
    return best;
}

class Bench {
public:
    explicit Bench(std::vector<std::string> wanted) : wanted_(std::move(wanted))
    {
        project_ = scene::loadProject(std::string(SOURCE_DIR) + "/demo/first-light.hygros", elements::findKind);
        JobControl job;
        shot_ = elements::freeze(project_, store_, job);
    }
    int run();

private:
    bool wants(const std::string& name) const
    {
        if (wanted_.empty())
            return true;
        return std::any_of(wanted_.begin(), wanted_.end(), [&](const std::string& w) { return name.starts_with(w); });
    }
    void add(const std::string& name, double value, const char* unit, const char* peer, double peerValue, double target,
             bool atLeast = false)
    {
        const double ratio = peerValue != 0.0 ? (atLeast ? peerValue / value : value / peerValue) : 0.0;
        figures_.push_back({name, value, unit, peer, peerValue, ratio, target, atLeast});
        const Figure& f = figures_.back();
        std::printf("%-26s %10.3f %-6s %-28s %10.3f   %8.3f   %s%g   %s\n", f.name.c_str(), f.value, f.unit.c_str(),
                    f.peer.c_str(), f.peerValue, f.ratio, target == 0.0 ? "" : (atLeast ? ">= " : "<= "), target,
                    target == 0.0 ? "recorded" : (f.holds() ? "holds" : "MISSED"));
        std::fflush(stdout);
    }
    void firstPictures();
    void pass();
    void air();
    void lamps();
    void keys();
    void moving();
    void smoke();
    void weather();
    void water();
    void clean();
    void window();
    void play();
    void timeLeft();
    void noise();
    void approximation();
    void volumes();
    void truths();

    std::vector<std::string> wanted_;
    scene::Project project_;
    Store store_;
    std::shared_ptr<const shot::Shot> shot_;
    double peer_ = 0.0;
    std::vector<Figure> figures_;
};

void Bench::pass()
{
    if (!wants("live.pass"))
        return;
    const auto tell = [&](const std::string& name, const std::shared_ptr<const shot::Shot>& shot, double target) {
        const double peer = threeMillionRays(*shot);
        const PassParts p = partsOfAPass(shot, 5);
        add(name, p.whole, "ms", "3 million rays, ms", peer, target);
        add(name + ".surfaces", p.surfaces, "ms", "a pass, ms", p.whole, 0.0);
        add(name + ".looks", p.looks, "ms", "a pass, ms", p.whole, 0.0);
        add(name + ".march", p.march, "ms", "a pass, ms", p.whole, 0.0);
        add(name + ".paths", p.paths, "ms", "a pass, ms", p.whole, 0.0);
        add(name + ".picture", p.picture, "ms", "a pass, ms", p.whole, 0.0);
    };
    tell("live.pass", shot_, 3.0);
    for (const char* demo : {"lamps", "january", "weir-pool"}) {
        const auto project = scene::loadProject(std::string(SOURCE_DIR) + "/demo/" + demo + ".hygros",
                                                elements::findKind);
        JobControl job;
        tell(std::string("live.pass.") + demo, elements::freeze(project, store_, job, elements::Missing::Told), 0.0);
    }
}

void Bench::firstPictures()
{
    std::vector<float> rgb;
    std::vector<std::uint8_t> screen(width * height * 4);
    const finish::Display display(shot_->look); // kept with its look, as the window does
    const auto show = [&](const shot::Shot&, int w, int h) {
        display.apply(rgb.data(), w, h, screen.data(), static_cast<std::size_t>(w) * 4, 4);
    };
    render::Frame frame(shot_, width, height);
    frame.traceSurfaces(0, never);
    frame.quickPicture(rgb, never);
    int edit = 0;
    if (wants("live.firstPicture"))
        add("live.firstPicture",
            fastest(40,
                    [&] {
                        auto next = copyOf(shot_);
                        next->media[1].sigmaT *= 1.f + 0.1f * static_cast<float>(++edit % 10);
                        frame.setAir(next, false);
                        frame.quickPicture(rgb, never);
                        show(*next, width, height);
                    }),
            "ms", "3 million rays, ms", peer_, 0.08);
    if (wants("live.firstPictureSettled")) {
        // The same where paths have said of the picture how much light there is.
        render::Frame settled(shot_, width, height);
        settled.trace(0, never);
        settled.light(never);
        add("live.firstPictureSettled",
            fastest(20,
                    [&] {
                        auto next = copyOf(shot_);
                        next->media[1].sigmaT *= 1.f + 0.1f * static_cast<float>(++edit % 10);
                        settled.setAir(next, false);
                        settled.quickPicture(rgb, never);
                        show(*next, width, height);
                    }),
            "ms", "3 million rays, ms", peer_, 0.0);
    }
    if (wants("live.firstPictureLamps")) {
        // The same at night under eighteen lamps.
        JobControl job;
        Store store;
        scene::Project lamps = scene::loadProject(std::string(SOURCE_DIR) + "/demo/lamps.hygros", elements::findKind);
        std::erase_if(lamps.elements, [](const scene::Element& e) { return e.id == "rain" || e.id == "wet"; });
        const auto night = elements::freeze(lamps, store, job);
        render::Frame dark(night, width, height);
        dark.traceSurfaces(0, never);
        dark.quickPicture(rgb, never);
        add("live.firstPictureLamps",
            fastest(20,
                    [&] {
                        auto next = copyOf(night);
                        next->media[1].sigmaT *= 1.f + 0.05f * static_cast<float>(++edit % 10);
                        dark.setAir(next, false);
                        dark.quickPicture(rgb, never);
                        show(*next, width, height);
                    }),
            "ms", "3 million rays there, ms", threeMillionRays(*night), 0.08);
    }
    if (wants("live.firstPictureNoise"))
        add("live.firstPictureNoise",
            fastest(7,
                    [&] {
                        auto next = copyOf(shot_);
                        next->media[1].noise.seed = static_cast<std::uint32_t>(++edit);
                        frame.setAir(next, true);
                        frame.quickPicture(rgb, never);
                        show(*next, width, height);
                    }),
            "ms", "3 million rays, ms", peer_, 0.15);
    const auto fromScratch = [&](const std::shared_ptr<shot::Shot>& next) {
        render::Frame coarse(next, width * 3 / 8, height * 3 / 8);
        coarse.traceSurfaces(0, never);
        coarse.quickPicture(rgb, never);
        show(*next, width * 3 / 8, height * 3 / 8);
    };
    if (wants("live.firstPictureLight"))
        add("live.firstPictureLight",
            fastest(5,
                    [&] {
                        auto next = copyOf(shot_);
                        next->lamps[0].position.x += 0.1f * static_cast<float>(++edit);
                        fromScratch(next);
                    }),
            "ms", "3 million rays, ms", peer_, 0.30);
    if (wants("live.firstPictureCamera"))
        add("live.firstPictureCamera",
            fastest(5,
                    [&] {
                        auto next = copyOf(shot_);
                        next->camera.position.x += 0.02f * static_cast<float>(++edit);
                        fromScratch(next);
                    }),
            "ms", "3 million rays, ms", peer_, 0.60);
}

/// Many lamps, and lamps that reach nothing.
void Bench::lamps()
{
    if (!wants("lamps."))
        return;
    const auto row = [&](int count) {
        auto shot = copyOf(shot_);
        light::Lamp post = shot->lamps.front();
        post.intensity = Vec3(1.5f, 1.1f, 0.6f);
        shot->lamps.clear();
        for (int i = 0; i < count; ++i) {
            post.id = "post-" + std::to_string(i);
            post.position = Vec3(i % 2 ? 8.5f : -4.15f, 4.1f,
                                 -10.f - 384.f / static_cast<float>(count) * static_cast<float>(i));
            shot->lamps.push_back(post);
        }
        return shot;
    };
    std::size_t bytes = 0;
    const auto passOf = [&](const std::shared_ptr<const shot::Shot>& shot) { return passTime(shot, 3, &bytes); };
    const double four = passOf(row(4)), many = passOf(row(64));
    add("lamps.64", many, "ms", "pass with 4 lamps, ms", four, 3.0);
    add("lamps.64.memory", static_cast<double>(bytes) / 1e6, "MB", "", 0.0, 0.0);
    auto excluded = row(16);
    for (light::Lamp& lamp : excluded->lamps)
        if (lamp.id != "post-0") {
            lamp.mediaReach.assign(excluded->media.size(), 0.f);
            lamp.setReach.assign(std::max<std::size_t>(1, excluded->setIds.size()), 0.f);
            lamp.glow = 0.f;
        }
    auto one = row(16);
    one->lamps.resize(1);
    const double alone = passOf(one);
    add("lamps.excluded", passOf(excluded), "ms", "pass without them, ms", alone, 1.15);
}

/// Haze, two banks, a deck and a veil together, and what each of the new ones costs.
void Bench::air()
{
    if (!wants("air.") && !wants("live.firstPictureFull"))
        return;
    scene::Project p = project_;
    const auto frozen = [&] {
        JobControl job;
        return elements::freeze(p, store_, job);
    };
    scene::Element& bank = p.add(*elements::findKind("fogBank"), "hollows");
    bank.set("form", std::string("ground"));
    bank.set("visibility", 120.0);
    const auto withBank = frozen();
    p.add(*elements::findKind("cloudDeck"), "deck");
    const auto withDeck = frozen();
    p.add(*elements::findKind("veil"), "veil").set("horizonStrength", 0.5);
    const auto full = frozen();
    std::vector<float> rgb;
    std::vector<std::uint8_t> screen(width * height * 4);
    const finish::Display display(full->look);
    if (wants("live.firstPictureFull")) {
        render::Frame frame(full, width, height);
        frame.traceSurfaces(0, never);
        frame.quickPicture(rgb, never);
        int edit = 0;
        add("live.firstPictureFull",
            fastest(40,
                    [&] {
                        auto next = copyOf(full);
                        next->media[1].sigmaT *= 1.f + 0.1f * static_cast<float>(++edit % 10);
                        frame.setAir(next, false);
                        frame.quickPicture(rgb, never);
                        display.apply(rgb.data(), width, height, screen.data(), width * 4, 4);
                    }),
            "ms", "3 million rays, ms", peer_, 0.08);
    }
    // One more march of a settled picture: with noise, looks and decks at their third pass.
    const auto passOf = [](const std::shared_ptr<const shot::Shot>& shot) { return passTime(shot, 4); };
    const bool all = wants("air.");
    if (!all)
        return;
    const double plain = passOf(shot_), banked = passOf(withBank), decked = passOf(withDeck);
    add("air.bank", banked - plain, "ms", "pass without it, ms", plain, 0.5);
    add("air.deck", decked - banked, "ms", "pass without it, ms", banked, 0.6);
    // A veil is laid on when a picture is put together.
    render::Frame without(withDeck, width, height), with(full, width, height);
    for (render::Frame* f : {&without, &with}) {
        f->trace(0, never);
        f->light(never);
    }
    const double bare = fastest(7, [&] { without.resolve(rgb); }), veiled = fastest(7, [&] { with.resolve(rgb); });
    add("air.veil", std::max(0.0, veiled - bare), "ms", "pass without it, ms", decked, 0.03);
    // Looking for the ground, once a set and camera.
    JobControl job;
    add("air.ground",
        fastest(2,
                [&] {
                    const media::GroundHeights heights(*shot_->scene, {shot_->camera.position, 12.f, 6.f}, job);
                }),
        "ms", "3 million rays, ms", peer_, 1.0);
}

void Bench::keys()
{
    if (!wants("keys."))
        return;
    // Forty banks with ten keyed numbers each, ten keys a number.
    scene::Project p = project_;
    for (int i = 0; i < 40; ++i) {
        scene::Element& e = p.add(*elements::findKind("fogBank"), "Bank");
        int keyed = 0;
        for (const scene::Parameter& q : e.kind->parameters) {
            if (q.type != scene::ValueType::Number || !scene::mayBeKeyed(q) || keyed == 10)
                continue;
            scene::Track track;
            const double value = std::get<double>(q.get(*e.settings));
            for (int k = 0; k < 10; ++k)
                track.keys.push_back(scene::keyAt(10.0 * k, value));
            e.setTrack(q.id, std::move(track));
            ++keyed;
        }
    }
    double frame = 1.0;
    JobControl job;
    const auto time = [&](const scene::Project& project) {
        scene::Project now = project;
        return fastest(60, [&] {
            now.frame = frame = 1.0 + std::fmod(frame + 0.7, 90.0);
            elements::freeze(now, store_, job);
        });
    };
    const double plain = time(scene::evaluated(p, 1.0));
    add("keys.evaluate", time(p), "ms", "the same without keys, ms", plain, 1.1);
}

void Bench::smoke()
{
    if (wants("smoke.pressure") || wants("smoke.iterations")) {
        const auto p = bench::pressure(96, false, true), s = bench::pressure(64, true, true);
        add("smoke.pressure", p.own, "ms", "OpenVDB, ms", p.peer, 60.0, true);
        add("smoke.pressureSolids", s.own, "ms", "OpenVDB, ms", s.peer, 30.0, true);
        add("smoke.iterations", p.iterations, "", "asked at most", 1.0, 6.0);
        add("smoke.iterationsSolids", s.iterations, "", "asked at most", 1.0, 12.0);
    }
    const double memory = wants("smoke.step") || wants("smoke.growth") ? bench::triad() : 0.0;
    if (wants("smoke.step"))
        add("smoke.step", bench::denseStep(128), "ns a cell", "600 bytes by triad, ns", memory, 4.0);
    if (wants("smoke.growth")) {
        const double small = bench::denseStep(64);
        add("smoke.growth", bench::denseStep(192), "ns a cell at 192³", "ns a cell at 64³", small, 1.5);
    }
    if (wants("smoke.sparse") || wants("fire.memory")) {
        const auto s = bench::sparseStep();
        add("smoke.sparse", 1.0, "step of what is in use", "step of all cells", s.times, 2.5, true);
        add("fire.memory", s.bytes, "bytes a cell in use", "bytes", 1.0, 80.0);
    }
    if (wants("fire.play") || wants("fire.first") || wants("bake.write")) {
        const auto f = bench::playFire(std::string(SOURCE_DIR) + "/demo/brazier.hygros");
        add("fire.play", 1.0, "s", "simulated, s", f.rate, 0.33, true);
        add("fire.pictures", 1.0, "s", "pictures", f.pictures, 4.0, true);
        add("fire.first", f.first, "s", "second", 1.0, 3.0);
        add("bake.write", 100.0 * f.files, "%", "of the bake", 1.0, 10.0);
    }
}

void Bench::water()
{
    const std::string estuary = std::string(SOURCE_DIR) + "/demo/estuary.hygros";
    if (wants("water.field")) {
        const auto w = bench::waterField();
        add("water.field", w.own, "ms", "bare transforms, ms", w.peer, 2.0);
    }
    if (wants("water.wake")) {
        const auto w = bench::waterWake();
        add("water.wake", w.own, "ms", "a pair of bare transforms, ms", w.peer, 3.0);
    }
    if (wants("water.foam")) {
        const auto w = bench::waterFoam();
        add("water.foam", w.own, "ms", "the field, ms", w.peer, 0.25);
    }
    if (wants("water.edit"))
        add("water.edit", bench::waterEdit(estuary), "ms", "3 million rays, ms", peer_, 0.5);
    if (wants("water.pass")) {
        const auto w = bench::waterPass(estuary);
        add("water.pass", w.own, "ms", "a pass with a flat mirror, ms", w.peer, 1.8);
    }
}

void Bench::weather()
{
    if (wants("snow.cover"))
        add("snow.cover", bench::snowCover(project_), "ms", "3 million rays, ms", peer_, 2.0);
    if (wants("particles.step") || wants("particles.memory")) {
        const auto p = bench::particles();
        add("particles.step", p.step, "ms", "state read and written, ms",
            bench::triad() / 600.0 * 2.0 * p.stateBytes * 1e-6, 6.0);
        add("particles.memory", p.bytes, "bytes a particle", "bytes", 1.0, 48.0);
    }
    if (wants("particles.resting")) {
        const auto r = bench::resting(project_);
        add("particles.resting", r.draw, "ms for ten million that lie", "a pass, ms", passTime(shot_, 2), 0.5);
        add("particles.restingMemory", r.bytes * 1e-9, "GB", "GB", 1.0, 1.5);
    }
    if (!wants("rain.draw") && !wants("rain.edit") && !wants("wet.picture"))
        return;
    const auto w = bench::weather(project_);
    add("rain.drops", w.drops, "drawn for rain.draw", "asked", 100e3, 0.0);
    add("rain.draw", w.draw, "ms", "3 million rays, ms", peer_, 0.3);
    add("rain.edit", w.edit, "ms", "3 million rays, ms", peer_, 0.5);
    JobControl job;
    scene::Project soaked = project_;
    soaked.add(*elements::findKind("wetGround"), "Wet");
    const double dry = passTime(shot_, 4);
    add("wet.picture", passTime(elements::freeze(soaked, store_, job), 4), "ms", "a pass without, ms", dry, 1.25);
}

void Bench::moving()
{
    if (wants("play.drift"))
        add("play.drift", bench::nextFrame(project_, 1), "ms", "3 million rays, ms", peer_, 0.13);
    if (wants("scrub.still"))
        add("scrub.still", bench::nextFrame(project_, 97), "ms", "3 million rays, ms", peer_, 0.15);
    if (wants("sequence.still")) {
        const auto f = bench::sequenceStill(project_);
        add("sequence.still", f.value, "ms", "the first frame, ms", f.peer, 0.25);
    }
    if (wants("sequence.moving")) {
        const auto f = bench::sequenceMoving(project_);
        add("sequence.moving", f.value, "ms", "a sharp still, ms", f.peer, 1.05);
    }
    if (wants("store.read")) {
        const auto f = bench::storeRead();
        add("store.read", f.value, "ms", "reading the bytes, ms", f.peer, 2.0);
    }
}

void Bench::clean()
{
    if (!wants("live.clean") && !wants("live.toClean"))
        return;
    // The artist looks at a settled picture, then edits the mist. What is shown then: the quick picture, and one march
    // by all that was seen, held to what paths said before. The reference is the same frame refined to twice the passes
    // after the same edit, held to the same; as it contains the first half, its distance is scaled to that of an
    // endless one (independent passes: by √2; more evenly spread ones need less).
    auto edited = copyOf(shot_);
    edited->media[1].sigmaT *= 1.6f;
    const finish::Display display(edited->look);
    render::Frame frame(shot_, width, height);
    constexpr int before = 48, reference = 96;
    // As a window makes them, from its opening on: how long until a picture is clean.
    struct Opened {
        std::vector<float> picture;
        int passes;
        double at; ///< [ms]
    };
    std::vector<Opened> opened;
    double soFar = 0.0;
    for (int p = 0; p < before; ++p) {
        std::vector<float> seen;
        soFar += milliseconds([&] {
            frame.trace(p, never);
            if (render::marchesAfter(p, before)) {
                frame.light(never);
                frame.resolve(seen);
            }
        });
        if ((p + 1) % 4 == 0)
            opened.push_back({std::move(seen), p + 1, soFar});
    }
    while (frame.noisePasses() < before)
        frame.light(never);
    const render::Frame::Known before48 = frame.known();
    std::vector<float> quick, shown, rgb;
    double spent = 1e300;
    for (int i = 0; i < 3; ++i) {
        frame.setAir(shot_, false);
        frame.setAir(edited, false);
        spent = std::min(spent, milliseconds([&] {
                             frame.quickPicture(quick, never);
                             frame.light(never);
                             frame.resolve(shown);
                         }));
    }
    // And then what paths say of the new air, as long as it is looked at.
    struct Later {
        std::vector<float> picture;
        double at;
    };
    std::vector<Later> later;
    double following = spent;
    for (int k = 1; k <= 12 && frame.pathsLeft(); ++k) {
        following += milliseconds([&] {
            frame.followPaths(never);
            if (k % 4 == 0) {
                later.emplace_back();
                frame.resolve(later.back().picture);
            }
        });
        if (k % 4 == 0)
            later.back().at = following;
    }
    for (int p = before; p < reference; ++p) {
        frame.trace(p, never);
        if (p % 8 == 7)
            frame.light(never);
    }
    while (frame.pathsLeft())
        frame.followPaths(never);
    frame.resolve(rgb);
    // The same with what paths said before the edit: what is left is the march's own noise.
    std::vector<float> held;
    frame.beginWith(before48);
    frame.resolve(held);
    double white = 1e-4;
    while (display.encode(static_cast<float>(white)) < 0.998f && white < 1e4)
        white *= 1.05;
    struct Distance {
        double level, relative;
    };
    const auto compare = [&](const char* what, const std::vector<float>& picture, const std::vector<float>& refined,
                             double at) {
        const auto now = levels(display, picture), wanted = levels(display, refined);
        double level = 0.0, mean = 0.0;
        std::vector<double> squares(now.size());
        for (std::size_t i = 0; i < now.size(); ++i) {
            level += std::pow(double(now[i] - wanted[i]), 2);
            const double a = std::min(double(picture[i]), white), b = std::min(double(refined[i]), white);
            squares[i] = (a - b) * (a - b);
            mean += b;
        }
        // The linear error of all but the worst hundredth: the edges of lamps and of the sun would drown everything.
        std::sort(squares.begin(), squares.end());
        const auto n = static_cast<double>(now.size()), kept = 0.99 * n;
        const double square = std::accumulate(squares.begin(), squares.begin() + static_cast<std::ptrdiff_t>(kept),
                                              0.0) /
                              kept;
        const Distance d{std::sqrt(2.0 * level / n), std::sqrt(2.0 * square) / (mean / n)};
        std::printf("    %s, %.0f ms: %.2f levels, %.2f %% relative RMSE\n", what, at, d.level, 100 * d.relative);
        std::fflush(stdout);
        return d;
    };
    compare("quick picture", quick, held, 0.0);
    const Distance d = compare("one march", shown, held, spent);
    add("live.clean", d.level < 1.0 && d.relative < 0.02 ? spent : 1e6, "ms", "3 million rays, ms", peer_, 1.0);
    // How far it moves evenly after that, while paths tell of the new air.
    compare("of it by paths", shown, rgb, spent);
    for (const Later& l : later)
        compare("more paths", l.picture, rgb, l.at);
    // Its own far end, with what paths said at the end of all.
    const render::Frame::Known atEnd = frame.known();
    frame.setAir(shot_, false);
    frame.light(never);
    frame.beginWith(before48);
    std::vector<float> far;
    frame.resolve(far);
    double clean = 0.0;
    for (const Opened& o : opened) {
        // (The far end contains what it is compared with.)
        const double own = std::sqrt(2.0 * (1.0 - double(o.passes) / reference));
        const Distance from = compare(("opened, " + std::to_string(o.passes) + " passes").c_str(), o.picture, far,
                                      o.at);
        if (clean == 0.0 && from.level / own < 1.0)
            clean = o.at;
    }
    frame.beginWith(atEnd);
    add("live.toClean", clean > 0.0 ? clean * 1e-3 : 1e6, "s", "3 million rays, s", peer_ * 1e-3, 40.0);
    add("live.settling", compare("all that paths say", held, rgb, 0.0).level / std::sqrt(2.0), "levels", "", 0.0, 0.0);
}

void Bench::play()
{
    if (!wants("play.kept"))
        return;
    const std::string command = std::string("QT_QPA_PLATFORM=offscreen '") + WINDOW + "' '" + SOURCE_DIR +
                                "/demo/first-light-moving.hygros' --report-play 20 2>/dev/null";
    double due = 0.0, onTime = 0.0;
    FILE* pipe = ::popen(command.c_str(), "r");
    char line[200];
    while (pipe && std::fgets(line, sizeof line, pipe)) {
        std::sscanf(line, "framesDue %lf", &due);
        std::sscanf(line, "framesOnTime %lf", &onTime);
    }
    if (pipe)
        ::pclose(pipe);
    add("play.kept", due, "frames", "shown on time, frames", onTime, 0.99, true);
}

void Bench::timeLeft()
{
    if (!wants("live.timeLeft"))
        return;
    // As the window opens a picture: what was said to be left, against what it took.
    struct Told {
        double at, left; ///< [ms]
        int samples;
    };
    std::vector<Told> told;
    std::promise<void> done;
    {
        const auto start = Clock::now();
        bool isDone = false;
        render::LiveRenderer live([&](const render::LivePicture& p) {
            told.push_back({std::chrono::duration<double, std::milli>(Clock::now() - start).count(),
                            1e3 * p.secondsLeft, p.samples});
            if (p.isClean && !std::exchange(isDone, true))
                done.set_value();
        });
        live.setShot(shot_, width / 2, height / 2);
        done.get_future().wait();
    }
    // Up to four fifths of the way: what is left then is a matter of seconds.
    const double all = told.back().at;
    double worst = 0.0;
    int next = 2;
    for (const Told& t : told)
        if (t.samples >= next && t.at < 0.8 * all) {
            const double took = all - t.at;
            std::printf("    after %d passes, %.1f s: %.1f s left said, %.1f s taken\n", t.samples, 1e-3 * t.at,
                        1e-3 * t.left, 1e-3 * took);
            worst = std::max(worst, std::abs(t.left / took - 1.0));
            next = 2 * t.samples;
        }
    add("live.timeLeft", worst, "", "of what it took", 1.0, 0.25);
}

void Bench::window()
{
    if (!wants("startup") && !wants("live.memory"))
        return;
    double first = 1e300, memory = 0.0;
    for (int i = 0; i < 3; ++i) {
        const std::string command = std::string("QT_QPA_PLATFORM=offscreen '") + WINDOW + "' '" + SOURCE_DIR +
                                    "/demo/first-light.hygros' --report-start --samples 9 2>/dev/null";
        FILE* pipe = ::popen(command.c_str(), "r");
        char line[200];
        while (pipe && std::fgets(line, sizeof line, pipe)) {
            double v = 0.0;
            if (std::sscanf(line, "firstPictureMs %lf", &v) == 1)
                first = std::min(first, v);
            if (std::sscanf(line, "residentMB %lf", &v) == 1)
                memory = std::max(memory, v);
        }
        if (pipe)
            ::pclose(pipe);
    }
    const double bare = fastest(3, [&] {
        JobControl job;
        geometry::PlacedSet placed{geometry::importSet(std::string(SOURCE_DIR) + "/demo/marl.glb", job), Mat4()};
        const geometry::RayScene built({placed}, job);
    });
    if (wants("startup"))
        add("startup", first, "ms", "glTF and ray structure, ms", bare, 3.0);
    if (wants("live.memory"))
        add("live.memory", memory, "MB", "target, MB", 1200.0, 1.0);
}

void Bench::noise()
{
    if (!wants("noise.batch"))
        return;
    media::Noise n;
    n.scale = 7.f;
    n.contrast = 1.f;
    constexpr int points = 1 << 20;
    volatile float sink = 0.f;
    const double batch = fastest(5, [&] {
        F8 sum8 = f8(0.f);
        F8 x = f8(0.f);
        for (int i = 0; i < 8; ++i)
            x[i] = static_cast<float>(i) * 0.83f;
        for (int i = 0; i < points / 8; ++i) {
            sum8 += media::octaves8(n, x, x * 0.3f, f8(static_cast<float>(i) * 0.01f));
            x += 0.37f;
        }
        sink = sink + sum(sum8);
    });
    const double plain = fastest(3, [&] {
        float total = 0.f;
        for (int i = 0; i < points / 8; ++i)
            for (int k = 0; k < 8; ++k) {
                const float x = static_cast<float>(k) * 0.83f + static_cast<float>(i) * 0.37f;
                total += media::octaves(n, Vec3(x, x * 0.3f, static_cast<float>(i) * 0.01f));
            }
        sink = sink + total;
    });
    add("noise.batch", 1e6 * batch / points, "ns/pt", "one point at a time, ns/pt", 1e6 * plain / points, 4.0, true);
}

void Bench::approximation()
{
    if (!wants("live.approximation"))
        return;
    JobControl job;
    render::StillSettings s;
    s.width = 96;
    s.height = 54;
    s.samples = 24;
    const auto mean = [&](render::StillAir air, int samples) {
        s.air = air;
        s.samples = samples;
        const render::Layers l = render::renderStill(shot_, s, job);
        // Mean of displayed light: the sun's own disk would drown the rest.
        const finish::Display d(shot_->look);
        double sum = 0.0;
        for (std::size_t i = 0; i < l.pixels() * 3; ++i)
            sum += std::min(4.0, double(l.plate[i] * l.transmittance[i] + l.air[i]));
        return sum / double(l.pixels() * 3);
    };
    const double live = mean(render::StillAir::Live, 32), truth = mean(render::StillAir::Paths, 384);
    add("live.approximation", live, "W", "path-traced air, W", truth, 0.0);
}

void Bench::volumes()
{
    smoke();
    weather();
    water();
    if (wants("grid.sample")) {
        const bench::Pair p = bench::gridSamples();
        add("grid.sample", 1e6 * p.own / p.samples, "ns", "BoxSampler, ns", 1e6 * p.peer / p.samples, 5.0, true);
    }
    if (wants("grid.transmittance")) {
        const bench::Pair p = bench::gridTransmittance(std::string(SOURCE_DIR) + "/demo/volumes/cumulus.vdb", 0.6f);
        add("grid.transmittance", 1e6 * p.own / p.samples, "ns a ray", "marching by BoxSampler, ns a ray",
            1e6 * p.peer / p.samples, 10.0, true);
    }
    if (wants("vdb.load")) {
        const bench::Pair p = bench::gridLoad(".");
        add("vdb.load", p.own, "ms", "OpenVDB reading alone, ms", p.peer, 1.5);
    }
    for (const auto& [name, file] :
         {std::pair("reference.rate", "first-light"), std::pair("reference.cumulus", "cumulus")})
        if (wants(name)) {
            JobControl job;
            const auto project = scene::loadProject(std::string(SOURCE_DIR) + "/demo/" + file + ".hygros",
                                                    elements::findKind);
            const auto shot = elements::freeze(project, store_, job);
            constexpr int w = 240, h = 135;
            render::PathIntegrator paths(shot, w, h);
            const double time = fastest(4, [&] { paths.pass(); });
            add(name, 1e5 * time / (w * h), "ms", "3 million rays, ms (100 k paths)", peer_, 0.0);
        }
    // What a change of a volume's density costs until the first picture, and a whole pass.
    if (wants("live.volume")) {
        JobControl job;
        const auto project = scene::loadProject(std::string(SOURCE_DIR) + "/demo/cumulus.hygros", elements::findKind);
        const auto shot = elements::freeze(project, store_, job);
        render::Frame frame(shot, width, height);
        std::vector<float> rgb;
        frame.traceSurfaces(0, never);
        frame.quickPicture(rgb, never);
        int edit = 0;
        const double time = fastest(8, [&] {
            auto next = copyOf(shot);
            next->volumes[0].sigmaT *= 1.f + 0.05f * static_cast<float>(++edit % 10);
            frame.setAir(next, false);
            frame.quickPicture(rgb, never);
        });
        add("live.volume", time, "ms", "3 million rays, ms", peer_, 0.0);
    }
}

// Twelve scenes that nobody tuned on, the same in every run.
void Bench::truths()
{
    if (!wants("live.truth"))
        return;
    const std::filesystem::path folder = std::filesystem::temp_directory_path() / "hygros-bench-truth";
    std::filesystem::create_directories(folder);
    truth::Settings settings;
    settings.width = 48;
    settings.height = 32;
    settings.paths = 768;
    settings.seconds = 12.0;
    std::vector<double> off, noise;
    for (std::uint64_t seed = 9001; seed <= 9012; ++seed) {
        const truth::Result r = truth::compare(truth::scene(seed, folder, std::string(SOURCE_DIR) + "/demo"), seed,
                                               settings);
        off.push_back(100.0 * truth::worstOf(r));
        noise.push_back(100.0 * r.error);
    }
    std::filesystem::remove_all(folder);
    std::sort(off.begin(), off.end());
    std::sort(noise.begin(), noise.end());
    add("live.truth", (off[5] + off[6]) / 2, "%", "the reference's own error, %", (noise[5] + noise[6]) / 2, 0.0);
    add("live.truth.worst", off.back(), "%", "the reference's own error, %", noise.back(), 0.0);
}

int Bench::run()
{
    std::printf("%-26s %10s %-6s %-28s %10s   %8s   target\n", "name", "value", "unit", "peer", "peer value", "ratio");
    peer_ = threeMillionRays(*shot_);
    firstPictures();
    pass();
    keys();
    moving();
    clean();
    window();
    play();
    timeLeft();
    air();
    lamps();
    noise();
    approximation();
    volumes();
    truths();
    nlohmann::ordered_json all = nlohmann::ordered_json::array();
    for (const Figure& f : figures_) {
        all.push_back({{"name", f.name},
                       {"value", f.value},
                       {"unit", f.unit},
                       {"peer", f.peer},
                       {"peerValue", f.peerValue},
                       {"ratio", f.ratio},
                       {"target", f.target},
                       {"holds", f.holds()}});
    }
    std::ofstream("bench.json") << all.dump(1) << "\n";
    std::printf("\nwritten: bench.json\n");
    return 0;
}
} // namespace

int main(int argc, char** argv)
{
    try {
        return Bench(std::vector<std::string>(argv + 1, argv + argc)).run();
    } catch (const std::exception& e) {
        std::fprintf(stderr, "hygros-bench: %s\n", e.what());
        return 3;
    }
}
