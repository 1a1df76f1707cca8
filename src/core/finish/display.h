#pragma once
/// From linear light to what a screen shows: exposure, the artist's tone curve, then the display's encoding
/// through OpenColorIO. Built once for a look, then immutable and fast.
///
/// Light far above white loses its colour by `pales`: channels are mixed by M = (1 − 3c)·I + c·J (J: all ones, c up to
/// a sixth), pass the curve, and are parted again by M's inverse, I/(1 − 3c) − c/(1 − 3c)·J. Where the curve is
/// straight nothing changes; where it bends over, all channels come to the same end, as the layers of a film do.
///
/// Where the look has a colour configuration, its view takes light after exposure and neutral point in place of curve,
/// paling and encoding.
///
/// A look's colour table comes last. It takes the encoded picture; or light, after exposure and neutral point, as
/// (log2(x/0.18) − from)/(to − from) or as ACEScct (Academy S-2016-001: primaries AP1), in place of curve and encoding.
#include "base/simd.h"
#include "shot/shot.h"

#include <cstdint>
#include <span>
#include <vector>

namespace hygros::finish {

/// Monotone cubic through points with ascending x (Fritsch & Carlson 1980); constant beyond the ends. One point
/// or none gives a constant.
float monotoneCurve(std::span<const Vec2> points, float x);

/// What each channel is multiplied with so that a blackbody of `kelvin` looks as one of 6500 K does; luminance of the
/// neutral is kept.
Vec3 whiteGains(float kelvin);

class Display {
public:
    explicit Display(const shot::Look& look);
    /// rgb: width·height·3 linear floats (negative and not-a-number count as 0). out: as many bytes, encoded, with
    /// a fixed blue-noise dither of half a level so that smooth air shows no steps, after the look's glow (glow.h).
    /// `pixelBytes` 3 writes RGB, 4
    /// writes BGRA with A = 255; `stride` is in bytes.
    void apply(const float* rgb, int width, int height, std::uint8_t* out, std::size_t stride, int pixelBytes) const;
    /// One value of the green channel, encoded, 0…1.
    float encode(float linear) const;

private:
    /// Eight values; `channelStart` is where their channel's table begins.
    F8 look8(I8 channelStart, F8 linear) const;
    /// Eight colours, red, green and blue apart, linear: encoded·255.
    void pale(F8 colour[3]) const;
    /// `own`: what the look makes of them without its table.
    void throughTable(F8 colour[3], const F8 own[3]) const;
    void withoutTable(F8 colour[3]) const;
    /// A row by the configuration's view: `width` pixels of four, encoded 0 to 1.
    void viewed(const float* rgb, std::size_t width, std::vector<float>& rgba) const;
    shot::Look look_;
    Vec3 gain_;
    float mixed_ = 0.f;     ///< c above
    std::size_t count_ = 0; ///< entries a table
    /// Values at floats whose low 16 bits are 0. Encoded·255 of red, green and blue; or, where bright colours pale, of
    /// displayed light in the first, and that by exposed light in the second.
    std::vector<float> table_;
};

/// Encoded 8-bit RGB of a linear picture.
std::vector<std::uint8_t> displayed(const shot::Look& look, const std::vector<float>& rgb, int width, int height);
} // namespace hygros::finish
