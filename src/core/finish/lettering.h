#pragma once
/// Words in pictures, without a window: Inter, as the window's own text.
#include <array>
#include <cstdint>
#include <string>
#include <vector>

namespace hygros::finish {

/// Eight-bit RGB, top row first.
struct Pixels {
    int width = 0, height = 0;
    std::vector<std::uint8_t> rgb;
    Pixels() = default;
    Pixels(int w, int h, std::array<std::uint8_t, 3> colour = {0, 0, 0});
    /// Copies another one into it; what does not fit is left out.
    void put(const Pixels& other, int x, int y);
    void fill(int x, int y, int w, int h, std::array<std::uint8_t, 3> colour);
};

/// Height from one line to the next for a size in pixels.
int lineHeight(float size);
/// How wide a text is [pixels]. UTF-8; what the font lacks is drawn as its box.
int textWidth(const std::string& text, float size);
/// Writes it with the upper edge of its line at y.
void write(Pixels& into, const std::string& text, int x, int y, float size, std::array<std::uint8_t, 3> colour);
/// The text, or its beginning with an ellipsis where it is wider than `width`.
std::string shortened(const std::string& text, float size, int width);
} // namespace hygros::finish
