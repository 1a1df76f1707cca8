#pragma once
/// Small pictures beside each other with their words, as one picture: what a bracket hands on.
#include "finish/lettering.h"

#include <string>
#include <vector>

namespace hygros::finish {

struct SheetWords {
    std::string title;                ///< in the head; empty: no head
    std::string note;                 ///< at the head's right: what project, which frame
    std::vector<std::string> columns; ///< of each tile of a row; with rows: over the columns alone
    std::vector<std::string> rows;    ///< of a crossed bracket; empty: tiles run on from row to row
};

/// How many tiles stand in a row of `count`, so that the sheet is about as wide as `aspect` times its height.
int sheetColumns(std::size_t count, double tileAspect, double aspect = 16.0 / 9.0);

/// Tiles of one size, row by row; of a crossed bracket as many a row as it has columns. An empty one is left grey, with
/// its words.
Pixels contactSheet(const std::vector<Pixels>& tiles, const SheetWords& words);
} // namespace hygros::finish
