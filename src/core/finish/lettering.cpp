#include "finish/lettering.h"

#include <algorithm>
#include <cmath>
#include <stb/stb_truetype.h>

// The font lies in the program.
asm(".section .rodata\n"
    ".balign 16\n"
    ".global hygros_font_begin\n"
    "hygros_font_begin:\n"
    ".incbin \"" HYGROS_FONT "\"\n"
    ".byte 0\n"
    ".previous\n");
extern "C" const unsigned char hygros_font_begin[];

namespace hygros::finish {
namespace {
const stbtt_fontinfo& font()
{
    static const stbtt_fontinfo read = [] {
        stbtt_fontinfo info{};
        stbtt_InitFont(&info, hygros_font_begin, stbtt_GetFontOffsetForIndex(hygros_font_begin, 0));
        return info;
    }();
    return read;
}

/// The next code point from UTF-8; damaged bytes count as themselves.
int next(const std::string& text, std::size_t& i)
{
    const auto at = [&](std::size_t k) { return static_cast<unsigned char>(k < text.size() ? text[k] : 0); };
    const unsigned char c = at(i++);
    const int more = c >= 0xF0 ? 3 : c >= 0xE0 ? 2 : c >= 0xC0 ? 1 : 0;
    int code = more == 3 ? c & 7 : more == 2 ? c & 15 : more == 1 ? c & 31 : c;
    for (int k = 0; k < more; ++k) {
        if ((at(i) & 0xC0) != 0x80)
            return c;
        code = code << 6 | (at(i++) & 0x3F);
    }
    return code;
}

/// Calls use(code, pen position) for each letter; returns the width.
template <class Use> float walk(const std::string& text, float size, const Use& use)
{
    const float scale = stbtt_ScaleForMappingEmToPixels(&font(), size);
    float pen = 0.f;
    int before = 0;
    for (std::size_t i = 0; i < text.size();) {
        const int code = next(text, i);
        int advance = 0, bearing = 0;
        stbtt_GetCodepointHMetrics(&font(), code, &advance, &bearing);
        if (before)
            pen += scale * static_cast<float>(stbtt_GetCodepointKernAdvance(&font(), before, code));
        use(code, pen);
        pen += scale * static_cast<float>(advance);
        before = code;
    }
    return pen;
}
} // namespace

Pixels::Pixels(int w, int h, std::array<std::uint8_t, 3> colour)
    : width(w), height(h), rgb(static_cast<std::size_t>(w) * static_cast<std::size_t>(h) * 3)
{
    fill(0, 0, w, h, colour);
}

void Pixels::fill(int x, int y, int w, int h, std::array<std::uint8_t, 3> colour)
{
    for (int j = std::max(0, y); j < std::min(height, y + h); ++j)
        for (int i = std::max(0, x); i < std::min(width, x + w); ++i)
            std::copy(colour.begin(), colour.end(),
                      rgb.begin() + 3 * (static_cast<std::ptrdiff_t>(j) * width + static_cast<std::ptrdiff_t>(i)));
}

void Pixels::put(const Pixels& other, int x, int y)
{
    const int first = std::max(0, -x), count = std::min(other.width, width - x) - first;
    for (int j = std::max(0, -y); j < std::min(other.height, height - y) && count > 0; ++j)
        std::copy_n(other.rgb.begin() + 3 * (static_cast<std::ptrdiff_t>(j) * other.width + first), 3 * count,
                    rgb.begin() + 3 * (static_cast<std::ptrdiff_t>(y + j) * width + x + first));
}

int lineHeight(float size) { return static_cast<int>(std::lround(1.35f * size)); }

int textWidth(const std::string& text, float size)
{
    return static_cast<int>(std::ceil(walk(text, size, [](int, float) {})));
}

void write(Pixels& into, const std::string& text, int x, int y, float size, std::array<std::uint8_t, 3> colour)
{
    const float scale = stbtt_ScaleForMappingEmToPixels(&font(), size);
    const int baseline = y + static_cast<int>(std::lround(1.02f * size));
    walk(text, size, [&](int code, float pen) {
        const float at = static_cast<float>(x) + pen, whole = std::floor(at);
        int x0 = 0, y0 = 0, x1 = 0, y1 = 0;
        stbtt_GetCodepointBitmapBoxSubpixel(&font(), code, scale, scale, at - whole, 0.f, &x0, &y0, &x1, &y1);
        const int w = x1 - x0, h = y1 - y0;
        if (w <= 0 || h <= 0)
            return;
        std::vector<unsigned char> cover(static_cast<std::size_t>(w) * static_cast<std::size_t>(h));
        stbtt_MakeCodepointBitmapSubpixel(&font(), cover.data(), w, h, w, scale, scale, at - whole, 0.f, code);
        for (int j = 0; j < h; ++j)
            for (int i = 0; i < w; ++i) {
                const int px = static_cast<int>(whole) + x0 + i, py = baseline + y0 + j;
                if (px < 0 || py < 0 || px >= into.width || py >= into.height)
                    continue;
                const int c =
                    cover[static_cast<std::size_t>(j) * static_cast<std::size_t>(w) + static_cast<std::size_t>(i)];
                std::uint8_t* to = &into.rgb[3 * (static_cast<std::size_t>(py) * static_cast<std::size_t>(into.width) +
                                                  static_cast<std::size_t>(px))];
                for (std::size_t k = 0; k < 3; ++k)
                    to[k] = static_cast<std::uint8_t>((to[k] * (255 - c) + colour[k] * c + 127) / 255);
            }
    });
}

std::string shortened(const std::string& text, float size, int width)
{
    if (textWidth(text, size) <= width)
        return text;
    std::string cut = text;
    while (!cut.empty() && textWidth(cut + "…", size) > width) {
        while (!cut.empty() && (static_cast<unsigned char>(cut.back()) & 0xC0) == 0x80)
            cut.pop_back();
        if (!cut.empty())
            cut.pop_back();
    }
    return cut + "…";
}
} // namespace hygros::finish
