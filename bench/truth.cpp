#include "truth.h"

#include "base/random.h"
#include "elements/kinds.h"
#include "image/image.h"
#include "render/accumulation.h"
#include "render/still.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <fstream>

namespace hygros::truth {
namespace {
class Dice {
public:
    explicit Dice(std::uint64_t seed) : random_(static_cast<std::uint32_t>(seed * 2654435761u + 97u)) {}
    double from(double a, double b) { return a + (b - a) * static_cast<double>(random_.next()); }
    /// Even in the logarithm.
    double spread(double a, double b) { return a * std::pow(b / a, static_cast<double>(random_.next())); }
    int below(int n) { return std::min(n - 1, static_cast<int>(random_.next() * static_cast<float>(n))); }
    bool chance(double p) { return static_cast<double>(random_.next()) < p; }
    std::string any(std::initializer_list<const char*> of)
    {
        return *(of.begin() + below(static_cast<int>(of.size())));
    }

private:
    Random random_;
};

void boxTo(std::ofstream& out, int& first, const char* material, Vec3 low, Vec3 high, double turn = 0.0)
{
    const Vec3 c = (low + high) * 0.5f;
    out << "usemtl " << material << "\n";
    for (int k = 0; k < 8; ++k) {
        const float x = (k & 1 ? high.x : low.x) - c.x, z = (k & 4 ? high.z : low.z) - c.z;
        const auto s = static_cast<float>(std::sin(turn)), co = static_cast<float>(std::cos(turn));
        out << "v " << c.x + x * co - z * s << " " << (k & 2 ? high.y : low.y) << " " << c.z + x * s + z * co << "\n";
    }
    static constexpr int faces[6][4] = {{1, 3, 4, 2}, {5, 6, 8, 7}, {1, 2, 6, 5},
                                        {3, 7, 8, 4}, {1, 5, 7, 3}, {2, 4, 8, 6}};
    for (const auto& f : faces) {
        out << "f";
        for (const int i : f)
            out << " " << first + i - 1;
        out << "\n";
    }
    first += 8;
}

/// Level ground with boards, posts and boxes on it.
void writeYard(const std::filesystem::path& file, Dice& dice)
{
    std::ofstream mtl(file.parent_path() / "yard.mtl");
    const double ground = dice.spread(0.04, 0.8);
    mtl << "newmtl ground\nKd " << ground << " " << ground * dice.from(0.85, 1.0) << " " << ground * dice.from(0.7, 1.0)
        << "\nnewmtl pale\nKd 0.7 0.68 0.62\nnewmtl dark\nKd 0.07 0.065 0.06\nnewmtl red\nKd 0.45 0.12 0.08\n";
    mtl.close();
    std::ofstream out(file);
    out << "mtllib yard.mtl\no ground\nusemtl ground\nv -4000 0 -4000\nv 4000 0 -4000\nv 4000 0 4000\nv -4000 0 "
           "4000\nf 1 4 3 2\n";
    int first = 5;
    const int things = 3 + dice.below(9);
    static const char* const materials[] = {"pale", "dark", "red"};
    for (int i = 0; i < things; ++i) {
        const double away = dice.spread(5, 300), across = dice.from(-0.45, 0.45) * away;
        const Vec3 at(static_cast<float>(across), 0.f, static_cast<float>(-away));
        out << "o thing_" << i << "\n";
        const char* material = materials[dice.below(3)];
        const double turn = dice.from(0, 3.14);
        switch (dice.below(3)) {
        case 0: { // a post
            const auto h = static_cast<float>(dice.from(1.5, 9.0)), w = static_cast<float>(dice.from(0.06, 0.35));
            boxTo(out, first, material, at - Vec3(w, 0, w), at + Vec3(w, h, w), turn);
            break;
        }
        case 1: { // a board that stands or hangs
            const auto w = static_cast<float>(dice.spread(0.4, 12)), h = static_cast<float>(dice.spread(0.4, 6)),
                       lift = dice.chance(0.4) ? static_cast<float>(dice.from(0.3, 3.0)) : 0.f;
            boxTo(out, first, material, at + Vec3(-w, lift, -0.05f), at + Vec3(w, lift + h, 0.05f), turn);
            break;
        }
        default: { // a shed
            const auto w = static_cast<float>(dice.spread(0.5, 12)), h = static_cast<float>(dice.spread(0.5, 9));
            boxTo(out, first, material, at - Vec3(w, 0, w), at + Vec3(w, h, w), turn);
        }
        }
    }
}

/// A sky of soft clouds and, maybe, a small bright source.
void writePanorama(const std::filesystem::path& file, Dice& dice)
{
    image::Image sky(128, 64, {"R", "G", "B"});
    const double bright = dice.spread(2, 40), tilt = dice.from(0, 6.28), uneven = dice.from(0, 0.8);
    const int lamp = dice.below(128), lampRow = 6 + dice.below(24);
    const bool small = dice.chance(0.5);
    for (int y = 0; y < 64; ++y)
        for (int x = 0; x < 128; ++x) {
            const double up = std::cos(M_PI * (y + 0.5) / 64), around = 2 * M_PI * x / 128;
            double v = up > 0 ? bright * (0.5 + 0.5 * up) * (1 + uneven * std::cos(around - tilt)) : bright * 0.08;
            if (small && std::abs(x - lamp) < 2 && std::abs(y - lampRow) < 2)
                v = bright * 300;
            float* p = sky.at(x, y);
            p[0] = static_cast<float>(v * 0.9);
            p[1] = static_cast<float>(v);
            p[2] = static_cast<float>(v * 1.12);
        }
    image::writeExr(file, sky);
}

/// How air scatters: g of every kind or droplets, albedo from sooty to white, coloured.
void scattering(scene::Element& e, Dice& dice)
{
    if (dice.chance(0.2)) {
        e.set("spread", std::string("droplets"));
        e.set("droplets", dice.spread(5, 50));
    } else {
        e.set("anisotropy", dice.from(-0.3, 0.9));
    }
    const auto grey = static_cast<float>(1.0 - 0.4 * std::pow(dice.from(0, 1), 2.0));
    Vec3 albedo(grey);
    if (dice.chance(0.35))
        for (int c = 0; c < 3; ++c)
            albedo[c] = std::min(1.f, grey * static_cast<float>(dice.from(0.85, 1.0)));
    e.set("albedo", albedo);
}

std::string words(double metres) { return formatQuantity(metres, Quantity::Length); }

void addSky(scene::Project& p, const std::filesystem::path& folder, Dice& dice, std::string& what)
{
    scene::Element& sun = *p.find("sun");
    const double kind = dice.from(0, 1);
    if (kind < 0.1) {
        writePanorama(folder / "sky.exr", dice);
        sun.set("panorama", (folder / "sky.exr").string());
        sun.set("panoramaSun", dice.chance(0.7));
        what += "panorama";
    } else {
        const bool moon = kind < 0.2;
        const double elevation = dice.chance(0.3) ? dice.from(-4, 8) : dice.from(3, 70);
        sun.set("elevation", elevation);
        sun.set("azimuth", dice.from(0, 360));
        sun.set("turbidity", dice.spread(0.3, 4));
        if (moon)
            sun.set("body", std::string("moon"));
        what += (moon ? "moon " : "sun ") + formatNumber(elevation, 2) + "° up, " +
                formatNumber(std::get<double>(sun.value("azimuth")), 3) + "° round";
    }
}

void addAir(scene::Project& p, Dice& dice, std::string& what)
{
    const auto kind = [](const char* id) -> const scene::ElementKind& { return *elements::findKind(id); };
    if (dice.chance(0.75)) {
        scene::Element& haze = p.add(kind("haze"), "haze");
        haze.set("visibility", dice.spread(30, 30e3));
        haze.set("thinning", dice.spread(20, 2000));
        if (dice.chance(0.2)) {
            haze.set("form", std::string("uniform"));
            haze.set("ceiling", dice.spread(5, 800));
        }
        scattering(haze, dice);
        what += "; haze " + words(std::get<double>(haze.value("visibility"))) + " over " +
                words(std::get<double>(haze.value("thinning")));
    }
    for (int i = dice.below(3); i > 0; --i) {
        scene::Element& bank = p.add(kind("fogBank"), "bank");
        const std::string form = dice.any({"layer", "layer", "ground", "box", "sphere", "cylinder"});
        bank.set("form", form);
        bank.set("visibility", dice.spread(15, 800));
        const double base = dice.chance(0.7) ? 0.0 : dice.from(0, 12), thick = dice.spread(0.6, 30);
        bank.set("base", base);
        bank.set("top", base + thick);
        bank.set("height", dice.spread(0.5, 12));
        bank.set("falloff", dice.from(0, 1) * thick);
        const double away = dice.spread(8, 150);
        bank.set("centre", Vec3(static_cast<float>(dice.from(-0.3, 0.3) * away), static_cast<float>(dice.from(0, 6)),
                                static_cast<float>(-away)));
        bank.set("size", Vec3(static_cast<float>(dice.spread(1, 120)), static_cast<float>(dice.spread(2, 25)),
                              static_cast<float>(dice.spread(1, 120))));
        bank.set("contrast", dice.chance(0.5) ? 0.0 : dice.from(0.2, 1.0));
        bank.set("scale", dice.spread(2, 40));
        scattering(bank, dice);
        what += "; " + form + " of fog, " + words(std::get<double>(bank.value("visibility")));
    }
    if (dice.chance(0.2)) {
        scene::Element& deck = p.add(kind("cloudDeck"), "deck");
        deck.set("base", dice.from(250, 1500));
        deck.set("thickness", dice.from(100, 500));
        deck.set("coverage", dice.from(0.2, 1.0));
        deck.set("visibility", dice.spread(40, 300));
        what += "; deck of " + formatNumber(100 * std::get<double>(deck.value("coverage")), 2) + " %";
    }
    if (dice.chance(0.25)) {
        scene::Element& smoke = p.add(kind("volume"), "smoke");
        smoke.set("source", dice.any({"ball", "box", "cylinder"}));
        const auto size = static_cast<float>(dice.spread(1, 12));
        smoke.set("size", Vec3(size, size * static_cast<float>(dice.from(0.6, 1.6)), size));
        smoke.set("voxel", static_cast<double>(size) / 30.0);
        const double away = dice.spread(8, 60);
        smoke.set("position", Vec3(static_cast<float>(dice.from(-0.3, 0.3) * away), 0.f, static_cast<float>(-away)));
        scattering(smoke, dice);
        smoke.set("visibility", dice.spread(0.2, 3.0) * static_cast<double>(size));
        what += "; smoke of " + words(static_cast<double>(size));
    }
}

void addLamps(scene::Project& p, Dice& dice, std::string& what)
{
    if (!dice.chance(0.4))
        return;
    // At night as bright as they are; by day as floodlights.
    const scene::Element& sun = *p.find("sun");
    const bool night = std::get<std::string>(sun.value("panorama")).empty() &&
                       (std::get<double>(sun.value("elevation")) < 3.0 ||
                        std::get<std::string>(sun.value("body")) == "moon");
    for (int i = 1 + dice.below(4); i > 0; --i) {
        const std::string kind = dice.any({"spot", "bulb", "panel", "tube", "beam"});
        scene::Element& lamp = p.add(*elements::findKind(kind), kind);
        const double away = dice.spread(5, 60);
        const Vec3 at(static_cast<float>(dice.from(-0.4, 0.4) * away), static_cast<float>(dice.from(1.5, 7)),
                      static_cast<float>(-away));
        lamp.set("position", at);
        lamp.set("aim", at + Vec3(static_cast<float>(dice.from(-6, 6)),
                                  static_cast<float>(dice.chance(0.6) ? -at.y : dice.from(-2, 4)),
                                  static_cast<float>(dice.from(-8, 8))));
        if (kind == "beam") {
            lamp.set("lux", night ? dice.spread(200, 1e4) : dice.spread(1e5, 1e6));
            lamp.set("radius", dice.spread(0.2, 3));
        } else {
            lamp.set("power", night ? dice.spread(1e3, 4e4) : dice.spread(1e6, 3e7));
        }
        what += "; " + kind;
    }
}
} // namespace

scene::Project scene(std::uint64_t seed, const std::filesystem::path& folder, const std::filesystem::path& demo)
{
    Dice dice(seed);
    scene::Project p = elements::newProject();
    p.folder = folder;
    p.unknown = nlohmann::json::object();
    std::string what;
    addSky(p, folder, dice, what);
    addAir(p, dice, what);
    const double set = dice.from(0, 1);
    Vec3 eye, aim;
    if (set < 0.35) {
        p.add(*elements::findKind("set"), "marl").set("file", (demo / "marl.glb").string());
        const auto heading = static_cast<float>(dice.from(-0.5, 0.5));
        eye = Vec3(static_cast<float>(dice.from(-6, 6)), static_cast<float>(dice.from(1.7, 6)),
                   static_cast<float>(dice.from(0, 14)));
        aim = eye + Vec3(std::sin(heading) * 20.f, static_cast<float>(dice.from(-2, 1)), -std::cos(heading) * 20.f);
        what += "; at Marl";
    } else {
        writeYard(folder / "yard.obj", dice);
        p.add(*elements::findKind("set"), "yard").set("file", (folder / "yard.obj").string());
        eye = Vec3(0.f, static_cast<float>(dice.spread(0.8, 12)), static_cast<float>(dice.from(-3, 3)));
        aim = eye + Vec3(0.f, static_cast<float>(dice.from(-3, 1.5)), -20.f);
        what += "; in a yard";
    }
    scene::Element& shot = *elements::cameraOf(p);
    shot.set("position", eye);
    shot.set("aim", aim);
    shot.set("focal", dice.spread(18, 70));
    addLamps(p, dice, what);
    p.name = what;
    return p;
}

double Compared::worst() const
{
    double most = 0.0;
    for (std::size_t c = 0; c < 3; ++c)
        if (reference[c] > 0.0)
            most = std::isfinite(live[c]) ? std::max(most, std::abs(live[c] / reference[c] - 1.0)) : 1e9;
    return most;
}

double worstOf(const Result& r) { return r.layers.empty() ? 0.0 : r.layers.front().worst(); }

namespace {
/// The sun's own disc is a hundredth of a pixel here and most of a picture's light: paths meet it too rarely to say
/// how bright it is. Its pixels are black in both.
void leaveOutDisc(const shot::Shot& shot, render::Layers& layers)
{
    if (!shot.sky || !shot.sky->hasSun())
        return;
    const geometry::View view(shot.camera, layers.width, layers.height);
    const float near = std::cos(std::min(1.5f, shot.sky->sunRadius() + 2.5f * view.pixelAngle()));
    for (int y = 0; y < layers.height; ++y)
        for (int x = 0; x < layers.width; ++x) {
            if (view.direction(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f)
                    .dot(shot.sky->sunDirection()) < near)
                continue;
            const auto p = static_cast<std::size_t>(y * layers.width + x) * 3;
            const auto clear = [&](std::vector<float>& v) {
                for (std::size_t c = 0; c < 3 && !v.empty(); ++c)
                    v[p + c] = 0.f;
            };
            clear(layers.plate);
            clear(layers.air);
            for (auto* all : {&layers.setBy, &layers.airBy})
                for (render::Layers::ByLamp& one : *all)
                    clear(one.air);
        }
}
} // namespace

Result compare(const scene::Project& project, std::uint64_t seed, const Settings& s)
{
    const auto begun = std::chrono::steady_clock::now();
    Store store;
    JobControl job;
    const auto shot = elements::freeze(project, store, job);
    render::StillSettings live;
    live.width = s.width;
    live.height = s.height;
    live.samples = s.passes;
    live.followsPaths = s.followsPaths;
    // With as many paths as a window's picture of 960×540 follows: four times those of so small a one.
    live.ratios = std::make_shared<render::PathRatios>();
    live.layers.sources = true;
    render::Layers a = render::renderStill(shot, live, job);
    render::StillSettings paths = live;
    paths.air = render::StillAir::Paths;
    paths.samples = s.paths;
    paths.noise = s.noise;
    paths.seconds = s.seconds;
    paths.layers.sources = true;
    paths.layers.lamps = true;
    const render::Accumulation sums = render::referenceSums(shot, paths, job);
    render::Layers b = sums.layers();
    leaveOutDisc(*shot, a);
    leaveOutDisc(*shot, b);

    Result r;
    r.seed = seed;
    r.what = project.name;
    r.noise = static_cast<double>(sums.noise());
    // Of the picture's mean: a pixel's variance over its paths.
    double variance = 0.0, all = 0.0;
    std::vector<double> pixelVariance(sums.pixels());
    for (std::size_t i = 0; i < sums.pixels(); ++i) {
        const double paths2 = std::max(1.0, double(sums.paths[i]));
        const auto lum = [&](const std::vector<float>& v) {
            return (0.2126 * double(v[i * 3]) + 0.7152 * double(v[i * 3 + 1]) + 0.0722 * double(v[i * 3 + 2])) / paths2;
        };
        const double set = lum(sums.set), air = lum(sums.air), seen = lum(sums.seen);
        all += set + air;
        pixelVariance[i] = seen * seen * std::pow(paths2, -1.5) +
                           (std::max(0.0, double(sums.setSquares[i]) / paths2 - (set - seen) * (set - seen)) +
                            std::max(0.0, double(sums.airSquares[i]) / paths2 - air * air)) /
                               paths2;
        variance += pixelVariance[i];
    }
    r.error = all > 0.0 ? std::sqrt(variance) / all : 1.0;
    r.width = s.width;
    r.height = s.height;
    const std::size_t n = a.pixels() * 3;
    const auto beauty = [&](const render::Layers& l, int part) {
        std::vector<float> out(n);
        for (std::size_t i = 0; i < n; ++i)
            out[i] = (part != 2 ? l.plate[i] * l.transmittance[i] : 0.f) + (part != 1 ? l.air[i] : 0.f);
        return out;
    };
    double whole = 0.0;
    const auto add = [&](const std::string& name, const std::vector<float>& own, const std::vector<float>& truth) {
        Compared c;
        c.layer = name;
        for (std::size_t i = 0; i < n; ++i) {
            c.live[i % 3] += static_cast<double>(own[i]) * 3.0 / static_cast<double>(n);
            c.reference[i % 3] += static_cast<double>(truth[i]) * 3.0 / static_cast<double>(n);
        }
        const auto light = [](const std::array<double, 3>& v) { return 0.2126 * v[0] + 0.7152 * v[1] + 0.0722 * v[2]; };
        const double mean = light(c.reference);
        if (whole == 0.0)
            whole = std::max(1e-30, mean);
        c.share = mean / whole;
        int good = 0, blocks = 0;
        for (int by = 0; by + 8 <= s.height; by += 8)
            for (int bx = 0; bx + 8 <= s.width; bx += 8) {
                double sum[2] = {0.0, 0.0}, doubt = 0.0;
                for (int y = by; y < by + 8; ++y)
                    for (int x = bx; x < bx + 8; ++x) {
                        doubt += pixelVariance[static_cast<std::size_t>(y) * static_cast<std::size_t>(s.width) +
                                               static_cast<std::size_t>(x)];
                        const std::size_t at = (static_cast<std::size_t>(y) * static_cast<std::size_t>(s.width) +
                                                static_cast<std::size_t>(x)) *
                                               3;
                        sum[0] += 0.2126 * double(own[at]) + 0.7152 * double(own[at + 1]) +
                                  0.0722 * double(own[at + 2]);
                        sum[1] += 0.2126 * double(truth[at]) + 0.7152 * double(truth[at + 1]) +
                                  0.0722 * double(truth[at + 2]);
                    }
                // What is a twentieth of the picture's mean is as good as black.
                const double floor = std::max(sum[1], 0.05 * 64.0 * whole);
                if (std::sqrt(doubt) > 0.07 * floor)
                    continue; // the reference does not know
                good += std::abs(sum[0] - sum[1]) <= 0.2 * floor ? 1 : 0;
                ++blocks;
            }
        c.near = blocks ? static_cast<double>(good) / blocks : 1.0;
        c.told = blocks * 64.0 / static_cast<double>(std::max(1, s.width / 8 * 8 * (s.height / 8 * 8)));
        r.layers.push_back(c);
    };
    r.live = beauty(a, 0);
    r.reference = beauty(b, 0);
    add("picture", r.live, r.reference);
    add("set", beauty(a, 1), beauty(b, 1));
    add("air", beauty(a, 2), beauty(b, 2));
    const auto by = [&](const char* prefix, const std::vector<render::Layers::ByLamp>& own,
                        const std::vector<render::Layers::ByLamp>& truth) {
        for (const auto& l : own)
            for (const auto& t : truth)
                if (l.id == t.id)
                    add(prefix + l.id, l.air, t.air);
    };
    by("set.", a.setBy, b.setBy);
    by("air.", a.airBy, b.airBy);
    r.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begun).count();
    return r;
}
} // namespace hygros::truth
