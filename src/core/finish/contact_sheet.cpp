#include "finish/contact_sheet.h"

#include <algorithm>
#include <cmath>

namespace hygros::finish {
namespace {
constexpr std::array<std::uint8_t, 3> ground{38, 39, 40}, empty{52, 53, 54}, bright{226, 226, 223}, dim{160, 163, 162};
} // namespace

int sheetColumns(std::size_t count, double tileAspect, double aspect)
{
    // The squarest whole number of columns that leaves few places open.
    int best = 1;
    double least = 1e300;
    for (int columns = 1; columns <= static_cast<int>(count); ++columns) {
        const int rows = (static_cast<int>(count) + columns - 1) / columns;
        const double shape = std::abs(std::log(columns * tileAspect / rows / aspect)),
                     open = double(rows * columns) / static_cast<double>(count) - 1.0;
        if (shape + open <= least + 1e-9) { // of two as good the wider
            least = shape + open;
            best = columns;
        }
    }
    return best;
}

Pixels contactSheet(const std::vector<Pixels>& tiles, const SheetWords& words)
{
    int w = 8, h = 8;
    for (const Pixels& t : tiles) {
        w = std::max(w, t.width);
        h = std::max(h, t.height);
    }
    const bool crossed = !words.rows.empty();
    const auto count = static_cast<int>(tiles.size());
    const int columns = crossed ? std::max(1, static_cast<int>(words.columns.size()))
                                : sheetColumns(tiles.size(), double(w) / h);
    const int rows = (count + columns - 1) / std::max(1, columns);
    const float size = std::clamp(static_cast<float>(w) / 22.f, 11.f, 26.f);
    const int line = lineHeight(size), gap = std::max(4, w / 64), margin = 2 * gap;
    int side = 0; // where the rows' words stand
    for (const std::string& r : words.rows)
        side = std::max(side, std::min(w / 2, textWidth(r, size)) + gap);
    const int head = words.title.empty() ? 0 : line + margin;
    const int label = line + gap / 2, top = margin + head + (crossed ? label : 0),
              stepY = h + gap + (crossed ? 0 : label);
    Pixels out(2 * margin + side + columns * (w + gap) - gap, top + rows * stepY + margin - gap, ground);
    if (head > 0) {
        const int noteWide = textWidth(words.note, size), room = out.width - 2 * margin - noteWide - 2 * gap;
        write(out, shortened(words.title, size, std::max(w / 2, room)), margin, margin, size, bright);
        if (room > w / 2)
            write(out, words.note, out.width - margin - noteWide, margin, size, dim);
    }
    for (int i = 0; i < count; ++i) {
        const int column = i % columns, row = i / columns, x = margin + side + column * (w + gap),
                  y = top + row * stepY;
        const Pixels& tile = tiles[static_cast<std::size_t>(i)];
        if (tile.rgb.empty())
            out.fill(x, y, w, h, empty);
        else
            out.put(tile, x, y);
        if (!crossed && i < static_cast<int>(words.columns.size()))
            write(out, shortened(words.columns[static_cast<std::size_t>(i)], size, w), x, y + h + gap / 2, size,
                  bright);
    }
    for (int c = 0; crossed && c < columns; ++c)
        write(out, shortened(words.columns[static_cast<std::size_t>(c)], size, w), margin + side + c * (w + gap),
              margin + head, size, bright);
    for (int r = 0; r < std::min(rows, static_cast<int>(words.rows.size())); ++r)
        write(out, shortened(words.rows[static_cast<std::size_t>(r)], size, side - gap), margin,
              top + r * stepY + (h - line) / 2, size, bright);
    return out;
}
} // namespace hygros::finish
