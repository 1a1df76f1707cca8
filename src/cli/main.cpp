/// hygros-cli: renders projects and tells what is in them. Exit codes: 0 done, 2 bad arguments or input, 3 failed
/// while working. Results on stdout, messages on stderr.
#include "base/error.h"
#include "base/numbered.h"
#include "cli/bracket.h"
#include "cli/commands.h"
#include "elements/cover_file.h"
#include "elements/points_file.h"
#include "elements/water_file.h"
#include "finish/deliver.h"
#include "finish/display.h"
#include "finish/movie.h"
#include "geometry/set_geometry.h"
#include "image/image.h"
#include "render/denoise.h"
#include "render/still.h"

#include <CLI/CLI.hpp>
#include <cstdio>
#include <iostream>
#include <tuple>
#include <unistd.h>

namespace {
using namespace hygros;
using namespace hygros::cli;
namespace fs = std::filesystem;

class Progress {
public:
    void show(float share, const std::string& message)
    {
        if (!terminal_)
            return;
        const int percent = static_cast<int>(share * 100.f);
        if (percent == last_)
            return;
        last_ = percent;
        std::fprintf(stderr, "\r%3d %%  %-40s", percent, message.c_str());
        if (share >= 1.f)
            std::fputc('\n', stderr);
    }

private:
    bool terminal_ = ::isatty(2);
    int last_ = -1;
};

struct RenderOptions {
    std::string project, out, size = "960x540", layers, air = "live", keep, noise, time, denoise = "0", frames;
    int samples = 64, frame = 0, pieces = 0;
    bool hasFrame = false, hasSamples = false, strict = false, glow = false;
    std::vector<std::string> sets, holdouts;
};

/// A number with its unit within limits; an input Error says what is wrong with it.
double parsed(const std::string& option, const std::string& text, Quantity quantity, double least, double most)
{
    const auto value = parseQuantity(text, quantity);
    if (!value || !(*value >= least) || !(*value <= most))
        throw inputError("Reading " + option, text,
                         "it must be from " + formatQuantity(least, quantity) + " to " +
                             formatQuantity(most, quantity));
    return *value;
}

/// FIRST-LAST, or all frames of a project.
std::pair<int, int> framesOf(const std::string& text, const scene::Project& project)
{
    if (text == "all")
        return {project.time.first, project.time.last};
    int first = 0, last = 0;
    char rest = 0;
    if (std::sscanf(text.c_str(), "%d-%d%c", &first, &last, &rest) != 2 || last < first || last - first > 100000)
        throw inputError("Reading --frames", text, "frames are FIRST-LAST, such as 1-48, or all");
    return {first, last};
}

struct RenderJob {
    const RenderOptions& options;
    scene::Project project;
    render::StillSettings settings;
    bool png = false;
    std::unique_ptr<finish::MovieWriter> movie = nullptr;
    Store store = {};
    JobControl job = {};
    Progress progress = {};

    render::StillSequence live = {};
    render::Shots frozen()
    {
        const auto open = elements::freezeOpen(
            project, store, job, options.pieces > 0 ? options.pieces : elements::shutterPieces(settings.samples));
        const auto shot = open.front();
        tellNotes(project, *shot, options.strict);
        settings.kept = options.keep.empty() ? "" : numbered(options.keep, project.frameNumber());
        if (!options.keep.empty())
            settings.keptFor = elements::stateOf(project, *shot, settings.width, settings.height);
        return {open.begin(), open.end()};
    }
    std::function<void(const render::StillProgress&)> watch(render::StillProgress& reached)
    {
        return [this, &reached](const render::StillProgress& now) {
            reached = now;
            progress.show(now.share, job.message());
        };
    }
    void tell(const render::StillProgress& reached) const
    {
        if (settings.air != render::StillAir::Paths)
            return;
        std::cerr << (reached.resumed ? "went on from kept paths; " : "") << std::lround(reached.samples)
                  << " paths a pixel";
        if (reached.noise < 1.f)
            std::cerr << ", noise " << formatNumber(double(reached.noise) * 100.0, 2) << " %";
        std::cerr << "\n";
    }
    void deliver(const render::Layers& layers, const shot::Shot& shot) const
    {
        const finish::Delivery delivery{project.name, shot.frame, shot.look,
                                        !options.layers.empty() && options.layers != "beauty", options.glow};
        if (movie) {
            std::vector<std::uint8_t> pixels(static_cast<std::size_t>(layers.width * layers.height) * 4);
            const std::size_t stride = static_cast<std::size_t>(layers.width) * 4;
            finish::Display(shot.look).apply(finish::beautyOf(layers).data(), layers.width, layers.height,
                                             pixels.data(), stride, 4);
            movie->add(pixels.data(), stride);
            return;
        }
        const std::string out = numbered(options.out, shot.frame);
        if (png)
            finish::deliverPng(out, layers, delivery);
        else
            finish::deliverExr(out, layers, delivery);
    }
    void still()
    {
        const render::Shots shots = frozen();
        render::StillProgress reached;
        const render::Layers layers = settings.air == render::StillAir::Paths
                                          ? render::renderStill(shots, settings, job, watch(reached))
                                          : live.next(shots, settings, job, watch(reached));
        tell(reached);
        deliver(layers, *shots.front());
    }
    /// Denoised references wait for the frame after, so that both their neighbours help.
    void sequence(int first, int last)
    {
        struct Done {
            std::shared_ptr<const shot::Shot> shot;
            render::Accumulation sums;
        };
        std::vector<Done> waiting; // the frame before, the one that is to go out
        const auto out = [&](std::size_t which) {
            std::vector<render::DenoiseNeighbour> beside;
            for (std::size_t k = 0; k < waiting.size(); ++k)
                if (k != which)
                    beside.push_back({&waiting[k].sums, waiting[k].shot->camera});
            render::Accumulation filtered = waiting[which].sums;
            render::denoise(filtered, {settings.denoise}, job, waiting[which].shot->camera, beside);
            deliver(filtered.layers(), *waiting[which].shot);
        };
        settings.ratios = std::make_shared<render::PathRatios>();
        const scene::Rate rate = project.time.rate;
        if (finish::isMovie(options.out))
            movie = std::make_unique<finish::MovieWriter>(options.out, settings.width, settings.height, rate.frames,
                                                          rate.seconds);
        for (int frame = first; frame <= last; ++frame) {
            project.frame = frame;
            if (settings.air != render::StillAir::Paths || settings.denoise <= 0.f) {
                still();
                continue;
            }
            const render::Shots shots = frozen();
            render::StillProgress reached;
            waiting.push_back({shots.front(), render::referenceSums(shots, settings, job, watch(reached))});
            tell(reached);
            if (waiting.size() >= 2)
                out(waiting.size() - 2);
            if (waiting.size() > 2)
                waiting.erase(waiting.begin());
        }
        if (!waiting.empty())
            out(waiting.size() - 1);
        if (movie)
            movie->finish();
    }
};

int renderCommand(const RenderOptions& o)
{
    int width = 0, height = 0;
    parseSize(o.size, width, height);
    std::string ending = fs::path(o.out).extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return std::tolower(c); });
    const bool movie = finish::isMovie(o.out);
    if (ending != ".exr" && ending != ".png" && !movie)
        throw inputError("Writing", o.out, "the ending must be .exr or .png, or of a movie .mp4, .mov, .mkv or .webm");
    if (movie && o.frames.empty())
        throw inputError("Writing", o.out, "a movie needs --frames", "--frames all takes the project's own.");
    if (!o.frames.empty() && ((!movie && o.out.find('#') == std::string::npos) ||
                              (!o.keep.empty() && o.keep.find('#') == std::string::npos)))
        throw inputError("Writing", o.out,
                         "names of several frames need # where the number goes, such as fog.####.exr (--keep too)");
    RenderJob job{o, scene::loadProject(o.project, elements::findKind), {}};
    job.png = ending == ".png";
    int first = 0, last = 0;
    if (!o.frames.empty())
        std::tie(first, last) = framesOf(o.frames, job.project);
    setOptions(job.project, o.sets);
    for (const std::string& held : o.holdouts)
        elements::holdOut(job.project, held);
    if (o.hasFrame)
        job.project.frame = o.frame;
    render::StillSettings& settings = job.settings;
    settings.width = width;
    settings.height = height;
    settings.samples = o.samples;
    settings.layers = {o.layers == "lamps", o.layers == "lamps", o.layers == "lamps" || o.layers == "all",
                       o.layers == "water"};
    settings.air = o.air != "live" ? render::StillAir::Paths : render::StillAir::Live;
    const bool reference = settings.air == render::StillAir::Paths;
    if (!reference && !(o.noise.empty() && o.time.empty() && o.keep.empty()))
        throw inputError("Reading the options", o.noise.empty() ? o.time.empty() ? "--keep" : "--time" : "--noise",
                         "it is for --integrator reference");
    if (!o.noise.empty())
        settings.noise = static_cast<float>(parsed("--noise", o.noise, Quantity::Share, 1e-4, 0.5));
    if (!o.time.empty())
        settings.seconds = parsed("--time", o.time, Quantity::Time, 0.01, 1e7);
    if (reference && !o.hasSamples && (settings.noise > 0.f || settings.seconds > 0.0))
        settings.samples = 1 << 20; // the other ends hold
    settings.denoise = static_cast<float>(parsed("--denoise", o.denoise, Quantity::Share, 0.0, 1.0));
    if (o.frames.empty())
        first = last = job.project.frameNumber();
    tellUnbaked(job.project, first, last, job.store);
    if (o.frames.empty())
        job.still();
    else
        job.sequence(first, last);
    return 0;
}

int volumeCommand(const std::string& project, const std::string& element, const std::string& out, double voxel,
                  int frame, const std::string& frames, bool strict)
{
    scene::Project p = scene::loadProject(project, elements::findKind);
    if (frame >= -1000000)
        p.frame = frame;
    int first = p.frameNumber(), last = first;
    if (!frames.empty())
        std::tie(first, last) = framesOf(frames, p);
    if (first != last && out.find('#') == std::string::npos)
        throw inputError("Writing", out, "names of several frames need # where the number goes, such as fog.####.vdb");
    JobControl job;
    Store store;
    for (int f = first; f <= last; ++f) {
        if (!frames.empty())
            p.frame = f;
        if (f == first)
            tellNotes(p, *elements::freeze(p, store, job), strict);
        elements::exportVolume(p, element, numbered(out, f), static_cast<float>(voxel), store, job);
    }
    return 0;
}

int coverCommand(const std::string& project, const std::string& element, const std::string& out, double cell, int frame)
{
    scene::Project p = scene::loadProject(project, elements::findKind);
    if (frame >= -1000000)
        p.frame = frame;
    JobControl job;
    Store store;
    elements::exportCover(p, element, out, cell, store, job);
    return 0;
}

int pointsCommand(const std::string& project, const std::string& element, const std::string& out, int frame,
                  const std::string& frames)
{
    scene::Project p = scene::loadProject(project, elements::findKind);
    if (frame >= -1000000)
        p.frame = frame;
    int first = p.frameNumber(), last = first;
    if (!frames.empty())
        std::tie(first, last) = framesOf(frames, p);
    if (first != last && out.find('#') == std::string::npos)
        throw inputError("Writing", out,
                         "names of several frames need # where the number goes, such as leaves.####.ply");
    JobControl job;
    Store store;
    for (int f = first; f <= last; ++f) {
        p.frame = frames.empty() ? p.frame : f;
        std::cout << numbered(out, f) << "  " << elements::exportPoints(p, element, numbered(out, f), store, job)
                  << " points\n";
    }
    return 0;
}

struct WaterOut {
    elements::WaterWish wish;
    std::vector<double> buoy; ///< x and z
};
int waterCommand(const std::string& project, const std::string& element, const std::string& out, int frame,
                 const std::string& frames, const WaterOut& water)
{
    scene::Project p = scene::loadProject(project, elements::findKind);
    if (frame >= -1000000)
        p.frame = frame;
    int first = p.frameNumber(), last = first;
    if (!frames.empty())
        std::tie(first, last) = framesOf(frames, p);
    JobControl job;
    Store store;
    if (!water.buoy.empty()) {
        elements::exportBuoy(p, element, water.buoy[0], water.buoy[1], first, last, out, store, job);
        return 0;
    }
    if (first != last && out.find('#') == std::string::npos)
        throw inputError("Writing", out, "names of several frames need # where the number goes, such as sea.####.ply");
    for (int f = first; f <= last; ++f) {
        p.frame = frames.empty() ? p.frame : f;
        elements::exportWater(p, element, numbered(out, f), water.wish, store, job);
        std::cout << numbered(out, f) << "\n";
    }
    return 0;
}

int paramsCommand(bool asJson)
{
    static const char* const typeNames[] = {"switch", "whole",  "number", "choice", "text",
                                            "file",   "colour", "point",  "curve",  "stops"};
    nlohmann::ordered_json all = nlohmann::ordered_json::array();
    for (const elements::Kind& kind : elements::kinds()) {
        if (!asJson)
            std::cout << kind.id << "  " << kind.label << " (" << scene::familyName(kind.family) << "): " << kind.help
                      << "\n";
        for (const scene::Parameter& p : kind.parameters) {
            const std::string type = typeNames[static_cast<std::size_t>(p.type)];
            if (asJson) {
                nlohmann::ordered_json j;
                j["kind"] = kind.id;
                j["id"] = p.id;
                j["label"] = p.label;
                if (!p.group.empty())
                    j["group"] = p.group;
                j["type"] = type;
                j["unit"] = unitOf(p.quantity);
                if (p.hardMin > -1e299)
                    j["range"] = {p.hardMin, p.hardMax};
                if (p.type == scene::ValueType::Number || p.type == scene::ValueType::Whole)
                    j["ruler"] = {{"from", p.softMin}, {"to", p.softMax}, {"byFactors", p.logarithmic}};
                if (!p.choices.empty())
                    j["choices"] = p.choices;
                j["default"] = scene::jsonOf(p.fallback);
                for (const auto& alias : p.aliases)
                    j["alsoAs"].push_back({{"id", alias.id}, {"unit", alias.unit}});
                j["keyable"] = p.keyable;
                j["help"] = p.help;
                all.push_back(j);
            } else {
                std::printf("    %-14s %-8s %-6s default %-22s %s\n", p.id.c_str(), type.c_str(),
                            unitOf(p.quantity).c_str(), p.shown(p.fallback).c_str(), p.rangeShown().c_str());
                std::fflush(stdout);
                for (const auto& alias : p.aliases)
                    std::cout << "    " << alias.id << " [" << alias.unit << "] is another way to give " << p.id
                              << "\n";
            }
        }
    }
    if (asJson)
        std::cout << all.dump(2) << "\n";
    return 0;
}
} // namespace

int main(int argc, char** argv)
{
    if (!__builtin_cpu_supports("avx2") || !__builtin_cpu_supports("fma")) {
        std::fputs("hygros-cli needs a processor with AVX2 and FMA (x86-64-v3).\n", stderr);
        return 3;
    }
    CLI::App app{"Renders Hygros projects and tells what is in them."};
    app.require_subcommand(1);
    RenderOptions o;
    std::string infoFile;
    std::string volumeProject, volumeElement, volumeOut;
    double volumeVoxel = 0.0;
    std::string volumeFrames;
    int volumeFrame = -1000001;
    bool asJson = false, strict = false;
    RecipeOptions recipe;
    CLI::App* r = app.add_subcommand("render", "Render one frame to an EXR or PNG file");
    r->add_option("project", o.project, "project file")->required();
    r->add_option("--out", o.out,
                  "picture to write (.exr linear, .png as displayed), or a movie of --frames (.mp4, .mov, .mkv, .webm; "
                  "needs ffmpeg)")
        ->required();
    r->add_option("--size", o.size, "WIDTHxHEIGHT in pixels")->capture_default_str();
    const auto* samples =
        r->add_option("--samples", o.samples, "passes to average")->check(CLI::Range(1, 65536))->capture_default_str();
    r->add_option(
        "--noise", o.noise,
        "reference: end once what is left of noise is under this, such as \"2 %\"; paths go where it is noisy");
    r->add_option("--time", o.time, "reference: end after so long, such as \"90 s\"");
    r->add_option("--denoise", o.denoise,
                  "share of the denoised picture, such as \"80 %\"; 0 leaves every layer as measured")
        ->capture_default_str();
    r->add_option("--keep", o.keep, "reference: keep its paths in this file (.exr) and go on from those in it");
    const auto* frame = r->add_option("--frame", o.frame, "frame to render instead of the project's own")
                            ->check(CLI::Range(-1000000, 1000000));
    r->add_option(
        "--frames", o.frames,
        "FIRST-LAST, or all: a sequence; # in --out stands for the number. Denoised references of a sequence use the "
        "frames beside them");
    r->add_option("--shutter", o.pieces,
                  "moments of the open shutter that a picture is the mean of, where anything moves: 1 is sharp; "
                  "a quarter of the samples without, 16 at most")
        ->check(CLI::Range(1, 256));
    r->add_option("--set", o.sets, "PATH=VALUE, for example haze.visibility=\"2 km\"; may be repeated");
    r->add_option("--layers", o.layers,
                  "all: plate, transmittance, air by lamp and depth in the EXR; lamps: also the set's light and the "
                  "air's shadows by lamp; water: also what it mirrors, what shows through, foam, gathered light and a "
                  "mask (live pictures, six times as long)")
        ->check(CLI::IsMember({"all", "lamps", "water", "beauty"}));
    r->add_flag("--glow", o.glow, "the look's glow in the EXR's beauty too; PNG and movies have it anyway");
    r->add_option(
        "--holdout", o.holdouts,
        "a set to hold out: black with alpha 0, it still hides and shades; 'all' for every set; may be repeated");
    r->add_option("--integrator,--air", o.air,
                  "live: the window's own; reference (or paths): multiple scattering by path tracing, slow and exact")
        ->check(CLI::IsMember({"live", "reference", "paths"}))
        ->capture_default_str();
    const char* const strictly =
        "what would only be a note (a grid that cannot be used, a lamp without its profile) is an error";
    r->add_flag("--strict", o.strict, strictly);
    CLI::App* i = app.add_subcommand("info", "Tell what is in a project, set, volume or picture file");
    i->add_option("file", infoFile)->required();
    i->add_flag("--json", asJson, "of a project: as JSON, its notes included");
    i->add_flag("--strict", strict, strictly);
    CLI::App* checks = app.add_subcommand(
        "check", "Tell what in a project has no effect or may not look as meant, and what to set; exit code 1 where "
                 "there is trouble among it");
    checks->add_option("project", infoFile, "project file")->required();
    checks->add_flag("--json", asJson, "as JSON");
    checks->add_option("--frame", o.frame, "frame instead of the project's own")->check(CLI::Range(-1000000, 1000000));
    CLI::App* v = app.add_subcommand("volume", "Write a volume of a project, its look included, as an OpenVDB file");
    v->add_option("project", volumeProject, "project file")->required();
    v->add_option("element", volumeElement, "the volume's id")->required();
    v->add_option("--out", volumeOut, "file to write (.vdb)")->required();
    v->add_option("--voxel", volumeVoxel, "voxel size in metres; its own without")->check(CLI::PositiveNumber);
    const auto* volumeOne = v->add_option("--frame", volumeFrame, "frame instead of the project's own")
                                ->check(CLI::Range(-1000000, 1000000));
    v->add_option("--frames", volumeFrames, "FIRST-LAST, or all: # in --out stands for the number")
        ->excludes(const_cast<CLI::Option*>(volumeOne));
    v->add_flag("--strict", strict, strictly);
    CLI::App* lying = app.add_subcommand(
        "cover", "Write a project's snow cover or puddles as a mesh (.ply, .obj, .glb) or a height map (.exr)");
    lying->add_option("project", volumeProject, "project file")->required();
    lying->add_option("element", volumeElement, "the id of a snow cover or of wet ground")->required();
    lying->add_option("--out", volumeOut, "file to write (.ply, .obj, .glb or .exr)")->required();
    lying->add_option("--cell", volumeVoxel, "side of a height map's pixel in metres; 0.1 without")
        ->check(CLI::PositiveNumber);
    lying->add_option("--frame", volumeFrame, "frame instead of the project's own")
        ->check(CLI::Range(-1000000, 1000000));
    CLI::App* points = app.add_subcommand("points",
                                          "Write baked particles or embers as points (.ply or OpenVDB's .vdb)");
    points->add_option("project", volumeProject, "project file")->required();
    points->add_option("element", volumeElement, "the particles' id")->required();
    points->add_option("--out", volumeOut, "file to write (.ply or .vdb)")->required();
    const CLI::Option* pointsOne = points->add_option("--frame", volumeFrame, "frame instead of the project's own")
                                       ->check(CLI::Range(-1000000, 1000000));
    points->add_option("--frames", volumeFrames, "FIRST-LAST, or all: # in --out stands for the number")
        ->excludes(const_cast<CLI::Option*>(pointsOne));
    CLI::App* waters = app.add_subcommand(
        "water",
        "Write water ahead of the camera: its surface (.ply, .obj, .glb), its maps (.exr), or a buoy's heights");
    WaterOut waterOut;
    waters->add_option("project", volumeProject, "project file")->required();
    waters->add_option("element", volumeElement, "the id of Open water or of a Pool")->required();
    waters->add_option("--out", volumeOut, "file to write (.ply, .obj, .glb, .exr; of a buoy .csv)")->required();
    waters->add_option("--side", waterOut.wish.side, "of the square in metres; 60 without")->check(CLI::PositiveNumber);
    waters->add_option("--cell", waterOut.wish.cell, "between samples in metres; 0.25 without")
        ->check(CLI::PositiveNumber);
    waters->add_flag("--tile", waterOut.wish.tiles, "of maps: the longest tile of waves alone, whose edges fit");
    waters->add_option("--buoy", waterOut.buoy, "X Z in metres: heights there over the frames as a table")->expected(2);
    const CLI::Option* watersOne = waters->add_option("--frame", volumeFrame, "frame instead of the project's own")
                                       ->check(CLI::Range(-1000000, 1000000));
    waters->add_option("--frames", volumeFrames, "FIRST-LAST, or all: # in --out stands for the number")
        ->excludes(const_cast<CLI::Option*>(watersOne));
    CLI::App* recipes = app.add_subcommand("recipe", "List, apply and make recipes");
    recipes->require_subcommand(1);
    CLI::App* list = recipes->add_subcommand("list",
                                             "Recipes of a folder; without one those that come with the program");
    list->add_option("folder", recipe.file);
    list->add_flag("--json", recipe.asJson, "as JSON");
    CLI::App* apply = recipes->add_subcommand("apply", "Put a recipe into a project; prints the ids of its elements");
    apply->add_option("recipe", recipe.file, "recipe file")->required();
    apply->add_option("project", recipe.project, "project file")->required();
    apply->add_option("--out", recipe.out, "project to write; the same one without");
    apply->add_option("--scale", recipe.scale, "multiplies its lengths and visibilities")
        ->check(CLI::PositiveNumber)
        ->capture_default_str();
    apply->add_option("--at", recipe.at, "X Y Z in metres: where one stands that is placed before the camera")
        ->expected(3);
    CLI::App* make = recipes->add_subcommand("make", "Make a recipe of elements of a project");
    make->add_option("project", recipe.project, "project file")->required();
    make->add_option("elements", recipe.elements, "ids of the elements")->required();
    make->add_option("--out", recipe.file, "recipe to write (.hygros-recipe)")->required();
    make->add_option("--name", recipe.name, "what it is called");
    make->add_option("--words", recipe.words, "what it is good for");
    make->add_option("--depth", recipe.depth, "metres within which nine tenths of its set lie")
        ->check(CLI::PositiveNumber);
    CLI::App* collecting = app.add_subcommand(
        "collect", "Copy every file that a project uses beside it and name them from there; exit code 1 where one is "
                   "missing");
    collecting->add_option("project", infoFile, "project file")->required();
    collecting->add_option("--out", volumeOut,
                           "another project file to write, in its own folder; the same one without");
    BracketOptions bracket;
    CLI::App* brackets = addBracket(app, bracket);
    BakeOptions baking;
    CLI::App* b = app.add_subcommand("bake", "Bake what is simulated in a project; goes on where it stopped");
    b->add_option("project", baking.project, "project file")->required();
    b->add_option("--frames", baking.frames,
                  "FIRST-LAST, or all: bakes through the last of them; those before are needed on the way");
    b->add_option("--element", baking.element, "id of one element; all that are simulated without");
    b->add_option("--store", baking.folder, "folder of the baked frames; beside the project without");
    b->add_option("--limit", baking.limit, "GB that the folder may hold")->check(CLI::PositiveNumber);
    b->add_flag("--list", baking.list, "tell what is baked, fresh or stale and why, and bake nothing");
    b->add_flag("--purge", baking.purge, "remove what is baked, of --element or of all, and bake nothing");
    b->add_flag("--json", baking.asJson, "with --list: as JSON");
    CLI::App* p = app.add_subcommand("params", "List every parameter with unit, range and default");
    p->add_flag("--json", asJson, "as JSON");
    try {
        app.parse(argc, argv);
    } catch (const CLI::ParseError& e) {
        const int code = app.exit(e);
        return code == 0 ? 0 : 2;
    }
    o.hasFrame = frame->count() > 0;
    o.hasSamples = samples->count() > 0;
    try {
        if (*r)
            return renderCommand(o);
        if (*i)
            return infoCommand(infoFile, asJson, strict);
        if (*checks)
            return checkCommand(infoFile, checks->count("--frame") > 0 ? o.frame : -10000000, asJson);
        if (*collecting)
            return collectCommand(infoFile, volumeOut);
        if (*brackets)
            return bracketCommand(bracket);
        if (*b)
            return bakeCommand(baking);
        if (*points)
            return pointsCommand(volumeProject, volumeElement, volumeOut, volumeFrame, volumeFrames);
        if (*waters)
            return waterCommand(volumeProject, volumeElement, volumeOut, volumeFrame, volumeFrames, waterOut);
        if (*lying)
            return coverCommand(volumeProject, volumeElement, volumeOut, volumeVoxel, volumeFrame);
        if (*v)
            return volumeCommand(volumeProject, volumeElement, volumeOut, volumeVoxel, volumeFrame, volumeFrames,
                                 strict);
        if (*recipes)
            return *list ? recipeList(recipe) : *apply ? recipeApply(recipe) : recipeMake(recipe);
        return paramsCommand(asJson);
    } catch (const Error& e) {
        std::fprintf(stderr, "hygros-cli: %s\n", e.what());
        return e.fault() == Fault::Input ? 2 : 3;
    } catch (const std::bad_alloc&) {
        std::fputs("hygros-cli: there is not enough memory for this size.\n", stderr);
        return 3;
    } catch (const std::exception& e) {
        std::fprintf(stderr, "hygros-cli: %s\n", e.what());
        return 3;
    }
}
