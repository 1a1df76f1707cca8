#pragma once
/// `hygros-cli bracket`: a contact sheet of one setting over a range, or two crossed.
#include "elements/bracket.h"

#include <string>
#include <vector>

namespace CLI {
class App;
}

namespace hygros::cli {

struct BracketOptions {
    std::string project, out, size = "320x180";
    elements::BracketWish over, across; ///< of `across` the path is empty: one setting alone
    std::string overBy, acrossBy;       ///< as typed; empty: what suits the setting
    std::vector<std::string> sets;
    int samples = 16, frame = -10000000;
    bool asJson = false;
};
/// Adds the command and its options.
CLI::App* addBracket(CLI::App& app, BracketOptions& options);
int bracketCommand(BracketOptions o);
/// WIDTHxHEIGHT; throws an input Error.
void parseSize(const std::string& text, int& width, int& height);
/// Applies PATH=VALUE; throws an input Error.
void setOptions(scene::Project& project, const std::vector<std::string>& sets);
} // namespace hygros::cli
