#include "render/sheet.h"

#include "render/frame.h"
#include "render/live.h"

#include <algorithm>
#include <atomic>

namespace hygros::render {
namespace {
/// Tiles that look at the same things from the same place.
struct Group {
    std::unique_ptr<Frame> frame;
    std::vector<std::size_t> tiles;
    std::size_t shown = 0; ///< whose air the frame has
};
/// Marches of one tile in a round: a lamp's beams are met at other places in each.
constexpr int mostMarches = 8;
/// Looks of paths at one tile in the end (Frame::followPaths): they are as many pixels' as in a large picture.
constexpr int mostLooks = 32;
} // namespace

void renderSheet(const SheetWish& wish, JobControl& job, const std::function<void(SheetTile)>& show)
{
    const std::atomic<bool> never{false};
    std::vector<std::shared_ptr<const shot::Shot>> shots(wish.count);
    std::vector<Group> all;
    std::size_t drawn = 0, due = 0;
    const auto picture = [&](Group& g, std::size_t tile, std::vector<float> rgb, int samples) {
        SheetTile out{tile, std::move(rgb), g.frame->shot().look, samples, samples >= wish.samples, {}};
        show(std::move(out));
    };
    const auto turnTo = [&](Group& g, std::size_t tile) {
        if (g.shown == tile)
            return;
        g.frame->setAir(shots[tile], changeBetween(*shots[g.shown], *shots[tile]) == Change::AirAndNoise);
        g.shown = tile;
    };
    // Coarsely, as they come.
    for (std::size_t i = 0; i < wish.count; ++i) {
        job.report(0.f, "Tile " + std::to_string(i + 1) + " of " + std::to_string(wish.count));
        job.check();
        try {
            shots[i] = wish.shot(i);
        } catch (const Cancelled&) {
            throw;
        } catch (const std::exception& bad) {
            show({i, {}, {}, 0, true, bad.what()});
            continue;
        }
        job.check();
        const auto alike = std::find_if(all.begin(), all.end(), [&](const Group& g) {
            return changeBetween(*shots[g.tiles.front()], *shots[i]) != Change::Light;
        });
        Group& g = alike != all.end() ? *alike : all.emplace_back();
        g.tiles.push_back(i);
        if (!g.frame) {
            g.frame = std::make_unique<Frame>(shots[i], wish.width, wish.height);
            g.frame->traceSurfaces(0, never);
            g.shown = i;
        }
        turnTo(g, i);
        std::vector<float> rgb;
        g.frame->quickPicture(rgb, never);
        picture(g, i, std::move(rgb), 0);
    }
    for (int passes = 1;; passes = std::min(passes * 4, wish.samples)) {
        due += static_cast<std::size_t>(passes) * wish.count;
        if (passes >= wish.samples)
            break;
    }
    for (int passes = 1;; passes = std::min(passes * 4, wish.samples)) {
        const bool last = passes >= wish.samples;
        for (Group& g : all) {
            const auto march = [&](std::size_t tile, int times) {
                turnTo(g, tile);
                for (int i = 0;
                     i < times || !g.frame->isLit() || g.frame->noisePasses() < std::min(passes, Frame::noiseEnough);
                     ++i) {
                    job.check();
                    g.frame->light(never);
                }
            };
            for (int pass = g.frame->tracedPasses(); pass < passes; ++pass) {
                job.check();
                g.frame->trace(pass, never);
            }
            for (const std::size_t tile : g.tiles) {
                march(tile, std::clamp(passes, 1, last ? mostMarches : 2));
                // As clean as the window's own picture also in what paths say of it.
                for (int i = 0; last && i < std::min(mostLooks, wish.samples) && g.frame->pathsLeft(); ++i) {
                    job.check();
                    g.frame->followPaths(never);
                }
                std::vector<float> rgb;
                g.frame->resolve(rgb);
                picture(g, tile, std::move(rgb), passes);
                drawn += static_cast<std::size_t>(passes);
                job.report(static_cast<float>(drawn) / static_cast<float>(std::max<std::size_t>(1, due)),
                           std::to_string(passes) + " of " + std::to_string(wish.samples) + " passes");
            }
        }
        if (last)
            break;
    }
}
} // namespace hygros::render
