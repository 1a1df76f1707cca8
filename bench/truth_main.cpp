/// hygros-truth [--seed S] [--scenes N] [--size WxH] [--seconds T] [--out FOLDER] [--layers]: live against path-traced
/// on scenes drawn by chance; the worst first, and both pictures of each beside each other.
#include "truth.h"

#include "base/error.h"
#include "image/image.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <unistd.h>

using namespace hygros;
namespace fs = std::filesystem;

namespace {
void writePair(const fs::path& file, const truth::Result& r)
{
    // As bright as the reference's brightest tenth asks for; the same for both.
    std::vector<float> sorted = r.reference;
    std::sort(sorted.begin(), sorted.end());
    const float white = std::max(1e-12f, sorted[sorted.size() * 92 / 100]);
    const int gap = 4, width = 2 * r.width + gap;
    std::vector<std::uint8_t> rgb(static_cast<std::size_t>(width * r.height * 3), 40);
    for (int y = 0; y < r.height; ++y)
        for (int side = 0; side < 2; ++side)
            for (int x = 0; x < r.width; ++x)
                for (int c = 0; c < 3; ++c) {
                    const auto& of = side ? r.reference : r.live;
                    const float v = of[static_cast<std::size_t>((y * r.width + x) * 3 + c)] / white;
                    rgb[static_cast<std::size_t>((y * width + side * (r.width + gap) + x) * 3 + c)] =
                        static_cast<std::uint8_t>(255.f *
                                                  std::pow(std::clamp(v / (1.f + 0.35f * v), 0.f, 1.f), 1.f / 2.2f));
                }
    image::writePng(file, width, r.height, rgb);
}
} // namespace

int main(int argc, char** argv)
{
    CLI::App app{"Holds live pictures against path-traced ones on scenes drawn by chance."};
    std::uint64_t seed = 1;
    int scenes = 12;
    truth::Settings settings;
    std::string size = "64x48", out;
    bool layers = false;
    app.add_option("--seed", seed, "of the first scene; the others follow")->capture_default_str();
    app.add_option("--scenes", scenes, "how many")->capture_default_str();
    app.add_option("--size", size, "of the pictures")->capture_default_str();
    app.add_option("--seconds", settings.seconds, "that a reference takes at most")->capture_default_str();
    app.add_option("--paths", settings.paths, "a pixel at most")->capture_default_str();
    bool alone = false;
    app.add_flag("--march", alone, "the march alone, without what paths say of it");
    app.add_option("--passes", settings.passes, "of the live picture")->capture_default_str();
    app.add_option("--out", out, "folder for pictures: live left, reference right");
    app.add_flag("--layers", layers, "every layer of every scene, not of the worst ten alone");
    CLI11_PARSE(app, argc, argv);
    settings.followsPaths = !alone;
    if (std::sscanf(size.c_str(), "%dx%d", &settings.width, &settings.height) != 2 || settings.width < 16 ||
        settings.height < 16)
        return std::fputs("--size is WIDTHxHEIGHT\n", stderr), 2;
    const fs::path folder = fs::temp_directory_path() / ("hygros-truth-" + std::to_string(::getpid()));
    fs::create_directories(folder);
    if (!out.empty())
        fs::create_directories(out);
    std::vector<truth::Result> all;
    for (int i = 0; i < scenes; ++i)
        try {
            const std::uint64_t own = seed + static_cast<std::uint64_t>(i);
            const fs::path files = out.empty() ? folder : fs::path(out) / ("scene-" + std::to_string(own));
            fs::create_directories(files);
            const scene::Project p = truth::scene(own, fs::absolute(files), std::string(SOURCE_DIR) + "/demo");
            if (!out.empty()) // also of a scene that does not come to an end
                scene::saveProject(p, fs::path(out) / ("scene-" + std::to_string(own) + ".hygros"));
            all.push_back(truth::compare(p, own, settings));
            const truth::Result& r = all.back();
            std::fprintf(stderr, "%5llu  %.2f ± %.3f  noise %.3f  %.1f s  %s\n", static_cast<unsigned long long>(own),
                         truth::worstOf(r), r.error, r.noise, r.seconds, r.what.c_str());
            if (!out.empty())
                writePair(fs::path(out) / ("scene-" + std::to_string(own) + ".png"), r);
        } catch (const std::exception& e) {
            std::fprintf(stderr, "%s\n", e.what());
            return 3;
        }
    fs::remove_all(folder);
    std::sort(all.begin(), all.end(),
              [](const auto& a, const auto& b) { return truth::worstOf(a) > truth::worstOf(b); });
    std::printf("seed   worst  blocks within a fifth, of those that the reference knows  noise  live / reference by "
                "channel, by layer (share of the light)\n");
    int within = 0, both = 0, place = 0, told = 0;
    constexpr double enough = 0.04; ///< a reference whose mean is known worse than this tells nothing
    double worst = 0.0;
    for (const truth::Result& r : all) {
        const truth::Compared& p = r.layers.front();
        const double off = truth::worstOf(r);
        if (r.error > enough) {
            std::printf("%5llu  %5.2f  not told: the reference's mean is known to %.0f %% only  %s\n",
                        static_cast<unsigned long long>(r.seed), off, r.error * 100.0, r.what.c_str());
            continue;
        }
        ++told;
        within += off <= 0.10 ? 1 : 0;
        both += off <= 0.10 && p.near >= 0.9 ? 1 : 0;
        worst = std::max(worst, off);
        std::printf("%5llu  %5.2f  %5.0f %% of %3.0f %%  %5.3f  %s\n", static_cast<unsigned long long>(r.seed), off,
                    p.near * 100.0, p.told * 100.0, r.noise, r.what.c_str());
        if (layers || place < 10)
            for (const truth::Compared& c : r.layers)
                if (c.share > 0.01)
                    std::printf("           %-12s %5.2f %5.2f %5.2f   %3.0f %%   blocks %3.0f %%\n", c.layer.c_str(),
                                c.live[0] / std::max(1e-30, c.reference[0]),
                                c.live[1] / std::max(1e-30, c.reference[1]),
                                c.live[2] / std::max(1e-30, c.reference[2]), c.share * 100.0, c.near * 100.0);
        ++place;
    }
    std::printf("%d scenes: %d within 10 %% in the mean of each channel, %d of these with nine blocks of ten within 20 "
                "%%; the worst is %.0f %% off\n",
                told, within, both, worst * 100.0);
    return 0;
}
