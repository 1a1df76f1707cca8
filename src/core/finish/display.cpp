#include "finish/display.h"

#include "base/error.h"
#include "base/parallel.h"
#include "base/random.h"
#include "base/simd.h"
#include "finish/glow.h"
#include "image/colour_config.h"
#include "image/colour_table.h"
#include "light/blackbody.h"

#include <OpenColorIO/OpenColorIO.h>
#include <algorithm>
#include <bit>
#include <cmath>
#include <sstream>

namespace hygros::finish {
namespace ocio = OCIO_NAMESPACE;
namespace {
constexpr float brightest = 1e30f; ///< what is exposed to more counts as that
/// Table range: 2^-24 … 2^8 in steps of 1/128 octave; the index is the upper half of the float's bits.
constexpr std::uint32_t firstBits = (127u - 24u) << 23, lastBits = (127u + 8u) << 23;

ocio::ConstCPUProcessorRcPtr displayProcessor()
{
    static const ocio::ConstCPUProcessorRcPtr processor = [] {
        std::istringstream text(R"(ocio_profile_version: 2
search_path: ""
strictparsing: true
roles:
  default: linear
  scene_linear: linear
file_rules:
  - !<Rule> {name: Default, colorspace: default}
displays:
  sRGB:
    - !<View> {name: Standard, colorspace: sRGB}
active_displays: []
active_views: []
colorspaces:
  - !<ColorSpace>
    name: linear
    description: Scene-linear light, Rec. 709 primaries
  - !<ColorSpace>
    name: sRGB
    description: IEC 61966-2-1
    from_scene_reference: !<ExponentWithLinearTransform> {gamma: [2.4, 2.4, 2.4, 1], offset: [0.055, 0.055, 0.055, 0], direction: inverse}
)");
        try {
            const auto config = ocio::Config::CreateFromStream(text);
            auto transform = ocio::DisplayViewTransform::Create();
            transform->setSrc("linear");
            transform->setDisplay("sRGB");
            transform->setView("Standard");
            return config->getProcessor(transform)->getDefaultCPUProcessor();
        } catch (const ocio::Exception& e) {
            throw workingError("Preparing the display transform", "", e.what());
        }
    }();
    return processor;
}
} // namespace

float monotoneCurve(std::span<const Vec2> p, float x)
{
    if (p.empty())
        return 0.f;
    if (x <= p.front().x)
        return p.front().y;
    if (x >= p.back().x)
        return p.back().y;
    std::size_t i = 0;
    while (x >= p[i + 1].x)
        ++i;
    const auto slope = [&](std::size_t k) { return (p[k + 1].y - p[k].y) / (p[k + 1].x - p[k].x); };
    // Harmonic mean of the neighbouring slopes keeps the curve from overshooting (Fritsch & Butland 1984).
    const auto tangent = [&](std::size_t k) {
        if (k == 0)
            return slope(0);
        if (k + 1 == p.size())
            return slope(k - 1);
        const float a = slope(k - 1), b = slope(k);
        if (a * b <= 0.f)
            return 0.f;
        const float ha = p[k].x - p[k - 1].x, hb = p[k + 1].x - p[k].x;
        return 3.f * (ha + hb) / ((2.f * hb + ha) / a + (hb + 2.f * ha) / b);
    };
    const float h = p[i + 1].x - p[i].x, t = (x - p[i].x) / h, t2 = t * t, t3 = t2 * t;
    return (2 * t3 - 3 * t2 + 1) * p[i].y + (t3 - 2 * t2 + t) * h * tangent(i) + (-2 * t3 + 3 * t2) * p[i + 1].y +
           (t3 - t2) * h * tangent(i + 1);
}

Display::Display(const shot::Look& look)
    : look_(look), gain_(whiteGains(look.white) * std::exp2(look.exposure)),
      mixed_(std::clamp(look.pales, 0.f, 1.f) / 6.f)
{
    const std::uint32_t count = ((lastBits - firstBits) >> 16) + 2;
    std::vector<float> pixels(count * 4ul, 1.f);
    const auto shown = [&](float linear) {
        float s = linear;
        if (!look.curve.empty())
            s = linear <= 0.f ? look.curve.front().y : monotoneCurve(look.curve, std::log2(linear / 0.18f));
        return std::clamp(s, 0.f, 1.f);
    };
    const auto entry = [](std::uint32_t i) { return i == 0 ? 0.f : std::bit_cast<float>(firstBits + (i << 16)); };
    for (std::uint32_t i = 0; i < count; ++i)
        for (int c = 0; c < 3; ++c)
            pixels[i * 4 + static_cast<std::uint32_t>(c)] = mixed_ > 0.f ? std::min(entry(i), 1.f)
                                                                         : shown(entry(i) * gain_[c]);
    ocio::PackedImageDesc image(pixels.data(), static_cast<long>(count), 1, 4);
    displayProcessor()->apply(image);
    count_ = count;
    table_.resize(count_ * 3);
    for (std::uint32_t c = 0; c < 3; ++c)
        for (std::uint32_t i = 0; i < count; ++i)
            table_[c * count + i] = std::clamp(pixels[i * 4 + c], 0.f, 1.f) * 255.f;
    if (mixed_ > 0.f)
        for (std::uint32_t i = 0; i < count; ++i)
            table_[count + i] = shown(entry(i));
}

namespace {
/// Light of an eye that is adapted to the look's neutral: not negative, not beyond bounds, a number.
void exposed(F8 colour[3], const Vec3& gain)
{
    for (int c = 0; c < 3; ++c)
        colour[c] = select(colour[c] > 0.f, min8(colour[c] * gain[c], f8(brightest)), f8(0.f));
}
F8 log2of(F8 v) { return log8(max8(v, f8(1e-30f))) * 1.44269504f; }

/// ACEScct of linear light with the primaries of Rec. 709 (to AP1, adapted from D65 to D60 after Bradford).
void toAcesCct(F8 colour[3])
{
    const F8 r = colour[0], g = colour[1], b = colour[2];
    const F8 ap1[3] = {r * 0.613097f + g * 0.339523f + b * 0.047379f, r * 0.070194f + g * 0.916354f + b * 0.013452f,
                       r * 0.020616f + g * 0.109570f + b * 0.869815f};
    for (int c = 0; c < 3; ++c)
        colour[c] = select(ap1[c] > 0.0078125f, (log2of(ap1[c]) + 9.72f) * (1.f / 17.52f),
                           ap1[c] * 10.5402377416545f + 0.0729055341958355f);
}
} // namespace

void Display::withoutTable(F8 colour[3]) const
{
    if (mixed_ > 0.f)
        return pale(colour);
    for (int c = 0; c < 3; ++c)
        colour[c] = look8(i8(c * static_cast<std::int32_t>(count_)), colour[c]);
}

void Display::viewed(const float* rgb, std::size_t width, std::vector<float>& rgba) const
{
    rgba.resize(4 * width);
    for (std::size_t x = 0; x < width; ++x) {
        for (int c = 0; c < 3; ++c) {
            const float v = rgb[3 * x + static_cast<std::size_t>(c)];
            rgba[4 * x + static_cast<std::size_t>(c)] = v > 0.f ? std::min(v * gain_[c], brightest) : 0.f;
        }
        rgba[4 * x + 3] = 1.f;
    }
    look_.view->apply(rgba.data(), width);
    for (float& v : rgba)
        v = v > 0.f ? std::min(v, 1.f) : 0.f; // not a number: none
}

void Display::throughTable(F8 colour[3], const F8 own[3]) const
{
    using Takes = shot::Look::TableTakes;
    if (look_.tableTakes == Takes::Displayed)
        for (int c = 0; c < 3; ++c)
            colour[c] = own[c] * (1.f / 255.f);
    else
        exposed(colour, gain_);
    if (look_.tableTakes == Takes::AcesCct)
        toAcesCct(colour);
    if (look_.tableTakes == Takes::Stops)
        for (int c = 0; c < 3; ++c)
            colour[c] = (log2of(colour[c] * (1.f / 0.18f)) - look_.tableFrom) *
                        (1.f / (look_.tableTo - look_.tableFrom));
    look_.table->apply(colour);
    for (int c = 0; c < 3; ++c) {
        colour[c] = clamp8(colour[c], 0.f, 1.f) * 255.f;
        if (look_.tableShare < 1.f)
            colour[c] = own[c] + (colour[c] - own[c]) * look_.tableShare;
    }
}

void Display::pale(F8 channel[3]) const
{
    exposed(channel, gain_);
    const float keeps = 1.f - 3.f * mixed_;
    const auto sum = [&] { return channel[0] + channel[1] + channel[2]; };
    F8 all = sum() * mixed_;
    for (int c = 0; c < 3; ++c)
        channel[c] = look8(i8(static_cast<std::int32_t>(count_)), channel[c] * keeps + all);
    all = sum() * mixed_;
    for (int c = 0; c < 3; ++c)
        channel[c] = look8(i8(0), (channel[c] - all) * (1.f / keeps));
}

Vec3 whiteGains(float kelvin)
{
    const Vec3 wanted = light::blackbodyColour(6500.f), given = light::blackbodyColour(kelvin);
    return Vec3(wanted.x / given.x, wanted.y / given.y, wanted.z / given.z);
}

F8 Display::look8(I8 channelStart, F8 linear) const
{
    // Anything below the table (negative and not-a-number too) reads its first entry, anything above its last.
    const I8 b = linear > 0.f ? bits(linear) : I8{};
    I8 above = reinterpret_cast<I8>(
        _mm256_min_epi32(reinterpret_cast<__m256i>(b), _mm256_set1_epi32(static_cast<int>(lastBits))));
    above = reinterpret_cast<I8>(
                _mm256_max_epi32(reinterpret_cast<__m256i>(above), _mm256_set1_epi32(static_cast<int>(firstBits)))) -
            static_cast<int>(firstBits);
    const I8 at = (above >> 16) + channelStart;
    const F8 f = toFloat(above & 0xffff) * (1.f / 65536.f);
    // Entry and the next in one load each.
    const auto pair = [&](int lane) {
        return _mm_castsi128_ps(
            _mm_loadl_epi64(reinterpret_cast<const __m128i*>(&table_[static_cast<std::size_t>(at[lane])])));
    };
    const __m128 a = _mm_movelh_ps(pair(0), pair(1)), c = _mm_movelh_ps(pair(2), pair(3)),
                 d = _mm_movelh_ps(pair(4), pair(5)), e = _mm_movelh_ps(pair(6), pair(7));
    const F8 from = _mm256_set_m128(_mm_shuffle_ps(d, e, 0x88), _mm_shuffle_ps(a, c, 0x88)),
             to = _mm256_set_m128(_mm_shuffle_ps(d, e, 0xdd), _mm_shuffle_ps(a, c, 0xdd));
    return from + (to - from) * f;
}

float Display::encode(float linear) const
{
    if (look_.table || look_.view) {
        F8 grey[3] = {f8(linear), f8(linear), f8(linear)}, own[3] = {grey[0], grey[1], grey[2]};
        if (look_.view) {
            const float rgb[3] = {linear, linear, linear};
            std::vector<float> shown;
            viewed(rgb, 1, shown);
            for (int c = 0; c < 3; ++c)
                own[c] = f8(shown[static_cast<std::size_t>(c)] * 255.f);
        } else
            withoutTable(own);
        if (look_.table)
            throughTable(grey, own);
        return (look_.table ? grey : own)[1][0] / 255.f;
    }
    if (mixed_ > 0.f) {
        const auto table = i8(static_cast<std::int32_t>(count_));
        return look8(i8(0), look8(table, f8(linear * gain_.y)))[0] / 255.f;
    }
    return look8(i8(static_cast<std::int32_t>(count_)), f8(linear))[0] / 255.f;
}

void Display::apply(const float* rgb, int width, int height, std::uint8_t* out, std::size_t stride,
                    int pixelBytes) const
{
    std::vector<float> glows;
    if (look_.glow > 0.f) {
        glows = glowing(look_, rgb, width, height);
        rgb = glows.data();
    }
    const BlueNoise& tile = BlueNoise::tile();
    // Eight pixels are three registers of interleaved channels.
    I8 start[3], pixel[3];
    for (int r = 0; r < 3; ++r)
        for (int i = 0; i < lanes; ++i) {
            start[r][i] = (r * lanes + i) % 3 * static_cast<std::int32_t>(count_);
            pixel[r][i] = (r * lanes + i) / 3;
        }
    parallelFor(static_cast<std::size_t>(height), [&](std::size_t y) {
        const float* from = rgb + y * static_cast<std::size_t>(width) * 3;
        std::uint8_t* to = out + y * stride;
        std::vector<float> shown;
        if (look_.view)
            viewed(from, static_cast<std::size_t>(width), shown);
        for (int x = 0; x < width; x += lanes, from += 3 * lanes) {
            const int pixels = std::min(lanes, width - x);
            float last[3 * lanes] = {};
            const float* values = from;
            if (pixels < lanes) {
                std::copy(from, from + 3 * pixels, last);
                values = last;
            }
            F8 dither;
            for (int i = 0; i < lanes; ++i)
                dither[i] = tile.at(x + i, static_cast<int>(y), 0);
            std::int32_t levels[3 * lanes];
            F8 encoded[3];
            if (mixed_ > 0.f || look_.table || look_.view) {
                F8 apart[3];
                for (int k = 0; k < 3 * lanes; ++k)
                    apart[k % 3][k / 3] = values[k];
                F8 own[3] = {apart[0], apart[1], apart[2]};
                if (!look_.view)
                    withoutTable(own);
                else
                    for (int i = 0; i < pixels; ++i)
                        for (int c = 0; c < 3; ++c)
                            own[c][i] = 255.f * shown[static_cast<std::size_t>(4 * (x + i) + c)];
                if (look_.table)
                    throughTable(apart, own);
                else
                    std::copy(own, own + 3, apart);
                for (int k = 0; k < 3 * lanes; ++k)
                    encoded[k / lanes][k % lanes] = apart[k % 3][k / 3];
            } else
                for (int r = 0; r < 3; ++r)
                    encoded[r] = look8(start[r], load8(values + r * lanes));
            for (int r = 0; r < 3; ++r) {
                const F8 grain = _mm256_permutevar8x32_ps(dither, reinterpret_cast<__m256i>(pixel[r]));
                const I8 level = toInt(min8(f8(255.f), encoded[r] + grain));
                std::memcpy(levels + r * lanes, &level, sizeof level);
            }
            for (int i = 0; i < pixels; ++i, to += pixelBytes) {
                const std::int32_t* v = levels + 3 * i;
                if (pixelBytes == 4) {
                    const std::uint32_t packed = 0xff000000u |
                                                 static_cast<std::uint32_t>(v[0] << 16 | v[1] << 8 | v[2]);
                    std::memcpy(to, &packed, 4);
                } else {
                    for (int c = 0; c < 3; ++c)
                        to[c] = static_cast<std::uint8_t>(v[c]);
                }
            }
        }
    });
}

std::vector<std::uint8_t> displayed(const shot::Look& look, const std::vector<float>& rgb, int width, int height)
{
    std::vector<std::uint8_t> out(static_cast<std::size_t>(width) * static_cast<std::size_t>(height) * 3);
    Display(look).apply(rgb.data(), width, height, out.data(), static_cast<std::size_t>(width) * 3, 3);
    return out;
}
} // namespace hygros::finish
