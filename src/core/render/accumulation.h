#pragma once
/// What path tracing has gathered so far, by pixel: sums over paths, kept from session to session as an OpenEXR file.
#include "render/layers.h"

#include "base/vec.h"

#include <cstdint>
#include <filesystem>

namespace hygros::render {

struct Accumulation {
    int width = 0, height = 0;
    LayerWish wish;
    /// What light comes from: an element's id (the sun's among them), "sky", "matter" (what volumes give off), "own"
    /// (what shines by itself on the set); the layers' names.
    std::vector<std::string> sources;

    // Sums, divided by `paths` they are means.
    std::vector<float> paths; ///< how many each pixel has
    std::vector<float> set,
        air; ///< RGB; light of paths whose first event was on a surface, in the air; veils in neither
    std::vector<float>
        seen; ///< RGB, part of `set`: sources that are seen themselves, whose picture is sharp from the start
    std::vector<float> veils;                  ///< RGB that veils add; empty without veils
    std::vector<float> through;                ///< RGB: share that comes through the air to the surface
    std::vector<float> open;                   ///< share of a matte that is seen through the air; empty without mattes
    std::vector<float> setSquares, airSquares; ///< of a path's luminance, by part; without what is seen itself
    std::vector<float> albedo, normal;         ///< RGB, XYZ of the surfaces met first: what a denoiser follows
    std::vector<float> depth;                  ///< smallest so far [m], not a sum
    std::vector<float> airDepth;               ///< of distances to the first event in the air [m], where there was one
    std::vector<float> airMet;                 ///< how many had one
    std::vector<float> setBy, airBy, shadowBy; ///< [pixel][source][3], where asked for

    Accumulation() = default;
    Accumulation(int w, int h, LayerWish what, std::vector<std::string> from, bool veiled, bool matted);
    std::size_t pixels() const { return paths.size(); }
    /// Mean over pixels.
    double meanPaths() const;

    /// Standard error of a pixel in the mean over each tile: what is left of noise, as a share of the light there (and
    /// at least a twentieth of the picture's mean).
    static constexpr int tile = 8;
    std::vector<float> tileErrors() const;
    /// The error that 95 of 100 tiles are under; 1 while there are fewer than 8 paths a pixel.
    float noise() const;

    Layers layers() const;

    /// Writes all of it, whole or not at all; `key` says what it belongs to.
    void save(const std::filesystem::path& file, const std::string& key) const;
    /// Adds what `file` holds if it belongs to `key` and has this shape and these sources; false (and nothing changes)
    /// if not, or there is no such file. Throws an input Error for a damaged one.
    bool resume(const std::filesystem::path& file, const std::string& key);

private:
    /// Calls body(channel prefix, values, how many a pixel) for every part that there is.
    template <class Self, class Body> static void overParts(Self& self, const Body& body);
};
} // namespace hygros::render
