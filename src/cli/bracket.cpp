#include "cli/bracket.h"

#include "base/error.h"
#include "cli/commands.h"
#include "finish/contact_sheet.h"
#include "finish/display.h"
#include "image/image.h"
#include "render/sheet.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cstdio>
#include <iostream>
#include <nlohmann/json.hpp>

namespace hygros::cli {
namespace {
const std::vector<std::pair<std::string, elements::BracketBy>> ways{{"even", elements::BracketBy::Even},
                                                                    {"factors", elements::BracketBy::Factors},
                                                                    {"stops", elements::BracketBy::Stops},
                                                                    {"frames", elements::BracketBy::Frames},
                                                                    {"choices", elements::BracketBy::Choices}};

elements::BracketAxis axisOf(const scene::Project& project, elements::BracketWish wish, const std::string& by)
{
    const elements::BracketWish begin = elements::bracketBegin(project, wish.path);
    if (by.empty())
        wish.by = begin.by;
    for (const auto& [name, way] : ways)
        if (name == by)
            wish.by = way;
    // Ends that were not given are those that the window begins with, where it begins in the same way.
    if (wish.from.empty() && wish.by == begin.by)
        wish.from = begin.from;
    if (wish.to.empty() && wish.by == begin.by)
        wish.to = begin.to;
    if (wish.by != elements::BracketBy::Choices && (wish.from.empty() || wish.to.empty()))
        throw inputError("Bracketing", wish.path, "stepped so both ends are needed", "Give --from and --to.");
    return elements::bracketAxis(project, wish);
}

void addRange(CLI::App& app, const std::string& prefix, elements::BracketWish& wish, std::string& by)
{
    app.add_option("--" + prefix + "from", wish.from, "first value, with its unit; of stops: about the present value");
    app.add_option("--" + prefix + "to", wish.to, "last value");
    app.add_option("--" + prefix + "steps", wish.count, "how many values")
        ->check(CLI::Range(2, elements::bracketMost))
        ->capture_default_str();
    app.add_option("--" + prefix + "by", by, "how they lie: even, factors, stops, frames or choices")
        ->check(CLI::IsMember({"even", "factors", "stops", "frames", "choices"}));
}
} // namespace

void parseSize(const std::string& text, int& width, int& height)
{
    char rest = 0;
    if (std::sscanf(text.c_str(), "%dx%d%c", &width, &height, &rest) != 2 || width < 8 || height < 8 || width > 16384 ||
        height > 16384)
        throw inputError("Reading --size", text, "a size is WIDTHxHEIGHT, each from 8 to 16384");
}

void setOptions(scene::Project& project, const std::vector<std::string>& sets)
{
    for (const std::string& each : sets) {
        const auto equals = each.find('=');
        if (equals == std::string::npos)
            throw inputError("Reading --set", each, "it needs the form PATH=VALUE");
        project.setPath(each.substr(0, equals), each.substr(equals + 1));
    }
}

CLI::App* addBracket(CLI::App& app, BracketOptions& o)
{
    CLI::App* b = app.add_subcommand("bracket",
                                     "A contact sheet of one setting over a range, or of two crossed, as one picture");
    b->add_option("project", o.project, "project file")->required();
    b->add_option("--over", o.over.path, "setting, such as mist.visibility; mist.muted is with and without; or frame")
        ->required();
    addRange(*b, "", o.over, o.overBy);
    CLI::Option* across = b->add_option("--across", o.across.path, "a second setting, whose values stand below");
    addRange(*b, "across-", o.across, o.acrossBy);
    for (const char* name : {"--across-from", "--across-to", "--across-steps", "--across-by"})
        b->get_option(name)->needs(across);
    b->add_option("--out", o.out, "file to write (.png); an existing one is replaced")->required();
    b->add_option("--size", o.size, "of a tile, WIDTHxHEIGHT")->capture_default_str();
    b->add_option("--samples", o.samples, "passes of each tile")->check(CLI::Range(1, 1024))->capture_default_str();
    b->add_option("--frame", o.frame, "frame instead of the project's own")->check(CLI::Range(-1000000, 1000000));
    b->add_option("--set", o.sets, "PATH=VALUE before it is stepped; may be repeated");
    b->add_flag("--json", o.asJson, "tell the tiles and their values as JSON");
    return b;
}

int bracketCommand(BracketOptions o)
{
    int width = 0, height = 0;
    parseSize(o.size, width, height);
    std::string ending = std::filesystem::path(o.out).extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return std::tolower(c); });
    if (ending != ".png")
        throw inputError("Writing", o.out, "the ending of a contact sheet must be .png");
    scene::Project project = scene::loadProject(o.project, elements::findKind);
    setOptions(project, o.sets);
    if (o.frame > -10000000)
        project.frame = o.frame;
    const elements::BracketAxis over = axisOf(project, o.over, o.overBy);
    elements::BracketAxis across;
    if (!o.across.path.empty()) {
        if (o.across.path == o.over.path)
            throw inputError("Bracketing", o.across.path, "it cannot be crossed with itself");
        across = axisOf(project, o.across, o.acrossBy);
    }
    const std::size_t columns = over.size(), rows = std::max<std::size_t>(1, across.size());
    if (columns * rows > elements::bracketTilesMost)
        throw inputError("Bracketing", o.over.path,
                         "a sheet holds " + std::to_string(elements::bracketTilesMost) + " tiles and these would be " +
                             std::to_string(columns * rows));
    Store store;
    JobControl job;
    render::SheetWish wish{columns * rows, width, height, o.samples, {}};
    wish.shot = [&](std::size_t i) {
        scene::Project p = elements::bracketed(project, over, i % columns, store);
        if (across.size() > 0)
            p = elements::bracketed(std::move(p), across, i / columns, store);
        const auto shot = elements::freeze(p, store, job);
        if (i == 0)
            tellNotes(p, *shot, false);
        return shot;
    };
    std::vector<finish::Pixels> tiles(wish.count);
    std::vector<double> light(wish.count, 0.0);
    int trouble = 0;
    render::renderSheet(wish, job, [&](render::SheetTile tile) {
        if (!tile.isLast)
            return;
        if (!tile.trouble.empty()) {
            ++trouble;
            std::fprintf(stderr, "hygros-cli: tile %zu: %s\n", tile.which + 1, tile.trouble.c_str());
            return;
        }
        finish::Pixels& to = tiles[tile.which];
        to.width = width;
        to.height = height;
        to.rgb = finish::displayed(tile.look, tile.rgb, width, height);
        for (std::size_t p = 0; p < tile.rgb.size(); p += 3)
            light[tile.which] += double(0.2126f * tile.rgb[p] + 0.7152f * tile.rgb[p + 1] + 0.0722f * tile.rgb[p + 2]);
        light[tile.which] /= static_cast<double>(tile.rgb.size()) / 3.0;
    });
    if (trouble == static_cast<int>(wish.count))
        throw workingError("Bracketing", o.out, "none of its pictures could be made", "Nothing was written.");
    finish::SheetWords words;
    words.title = across.size() > 0 ? over.label + " · " + across.label : over.label;
    words.note = project.name + (o.over.path == "frame" ? "" : " · frame " + std::to_string(project.frameNumber()));
    words.columns = over.shown;
    words.rows = across.shown;
    const finish::Pixels sheet = finish::contactSheet(tiles, words);
    image::writePng(o.out, sheet.width, sheet.height, sheet.rgb,
                    {{"hygros:project", project.name}, {"hygros:bracket", over.words()}});
    if (!o.asJson)
        return 0;
    nlohmann::ordered_json list = nlohmann::ordered_json::array();
    for (std::size_t i = 0; i < wish.count; ++i) {
        nlohmann::ordered_json tile{{over.path, scene::jsonOf(over.values[i % columns])}};
        if (across.size() > 0)
            tile[across.path] = scene::jsonOf(across.values[i / columns]);
        tile["meanLight"] = light[i];
        list.push_back(tile);
    }
    std::cout << nlohmann::ordered_json{{"sheet", o.out},
                                        {"width", sheet.width},
                                        {"height", sheet.height},
                                        {"tiles", list}}
                     .dump(2)
              << "\n";
    return 0;
}
} // namespace hygros::cli
