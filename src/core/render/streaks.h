#pragma once
/// What falls (media::Falling), as it lies on a picture: drops, flakes, leaves, and what bursts up where drops land.
#include "shot/shot.h"

#include <optional>
#include <string>

namespace hygros::render {

/// Shares of what a drop takes: bent at its rim alone; of the rest, what the picture itself lights it with.
inline constexpr float rimShare = 0.5f, fromPicture = 0.5f;

/// A drop as it lies on the picture.
struct Streak {
    Vec2 from, to;
    float radius = 0.f, cover = 0.f; ///< [pixels]; optical depth times pixels
    Vec3 light{0.f};                 ///< of sun, sky and lamps, a unit of cover
    bool isClear = true;             ///< it shows the picture's own light as well
    bool isOpaque = false;           ///< it is a leaf; nothing comes through
    Vec2 along{0.f}, across{0.f};    ///< of a leaf with an outline: from its middle to its tip, and to its side
    geometry::LeafShape shape = geometry::LeafShape::Broad;
};

/// All that is drawn one by one, where nothing hides or shelters it.
std::vector<Streak> streaksOf(const shot::Shot& shot, int width, int height);
/// One that is seen at a place of the picture.
struct SeenDrop {
    std::string element;
    media::Falling::Form form = media::Falling::Form::Drops;
    media::Drop drop;
    float distance = 0.f; ///< from the eye [m]
};
/// The one whose streak is nearest to a place of the picture [pixels] and no farther than `within`.
std::optional<SeenDrop> dropAt(const shot::Shot& shot, int width, int height, const Vec2& place, float within);
/// Share of the shutter's time and of a pixel (that lies so far from where it begins) for which a leaf covers it.
float leafIn(const Streak& streak, const Vec2& pixel);
} // namespace hygros::render
