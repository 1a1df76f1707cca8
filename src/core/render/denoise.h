#pragma once
/// Taking the grain out of a picture that has not been followed to its end, layer by layer.
///
/// Every pixel becomes a mean over the pixels around it that look alike: patches of a layer are compared with what its
/// own variance explains taken off (non-local means; Buades, Coll & Morel 2005; with the distances of Rousselle, Manzi
/// & Zwicker 2013), and features must agree too: surfaces' distance, normal and albedo, and how much the air lets
/// through. Light on surfaces is divided by their albedo first, so that textures stay. A second round compares what the
/// first made of the picture. One layer and all its parts by source share weights, so that they add up as before, and
/// beauty = plate · transmittance + air stays exact. Not for measuring: the mean of a picture can move by a little.
#include "base/job.h"
#include "geometry/camera.h"
#include "render/accumulation.h"

#include <span>

namespace hygros::render {

struct DenoiseSettings {
    float share = 1.f; ///< of the filtered picture in what comes out, 0…1; at 0 nothing is done
    int radius = 8;    ///< of the search [pixels]
    int rounds = 2;    ///< 1 is faster and leaves more
};

/// Another frame of a sequence, for filtering over time: each of its pixels is looked for where the surface (or what is
/// seen of the air) went.
struct DenoiseNeighbour {
    const Accumulation* sums = nullptr;
    geometry::Camera camera;
};

/// Filters the sums in place, counts of paths stay. Throws Cancelled, with the sums as they were.
void denoise(Accumulation& sums, const DenoiseSettings& settings, JobControl& job, const geometry::Camera& camera = {},
             std::span<const DenoiseNeighbour> neighbours = {});
/// The same for layers of the live integrator, whose variance is told from how they differ from pixel to pixel.
void denoise(Layers& layers, const DenoiseSettings& settings, JobControl& job);
} // namespace hygros::render
