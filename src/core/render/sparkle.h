#pragma once
/// Snow glitters: of its crystals those are seen that happen to mirror a light into the eye.
///
/// A square metre of fresh snow shows some million faces of a millimetre. Those that mirror a source a quarter of a
/// degree across lie, by their own unevenness, within 0.85° of the right way: 110 a square metre. How many there are in
/// a cell as large as what is looked at follows Poisson's law with that mean, drawn once for the cell and the way
/// (W. Jakob, M. Hasan, L. Yan, J. Lawrence, R. Ramamoorthi & S. Marschner, Discrete stochastic microfacet models, ACM
/// Trans. Graph. 33, 2014, with cells in place of their two hierarchies).
#include "geometry/ray_scene.h"

namespace hygros::render {

/// What a surface's glossy reflection is multiplied with at a place, from light along `l` to the eye along `v` (both
/// away from it); 1 in the mean over places, and everywhere where nothing glitters. `wide`: of what is looked at [m].
float sparkle(const geometry::Hit& hit, const Vec3& place, const Vec3& l, const Vec3& v, float wide);
} // namespace hygros::render
