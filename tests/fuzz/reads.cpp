/// Bytes as a file of one format, read as the program reads it: it must be read, or refused with an Error. The format
/// is the environment's HYGROS_FUZZ. For libFuzzer (./run fuzz) and for the short run (short_run.cpp).
#include "base/error.h"
#include "base/frame_store.h"
#include "elements/kinds.h"
#include "geometry/set_geometry.h"
#include "image/colour_config.h"
#include "image/colour_table.h"
#include "image/image.h"
#include "light/gobo.h"
#include "light/panorama.h"
#include "light/profile.h"
#include "media/vdb.h"
#include "scene/recipe.h"
#include "sim/smoke/gas_file.h"
#include "sim/smoke/plume.h"

#include <cstdlib>
#include <fstream>
#include <iostream>
#include <unistd.h>

using namespace hygros;

namespace {
using Bytes = std::span<const char>;
const std::filesystem::path& home()
{
    static const std::filesystem::path folder = [] {
        const std::filesystem::path shm = "/dev/shm";
        auto f = (std::filesystem::is_directory(shm) ? shm : std::filesystem::temp_directory_path()) /
                 ("hygros-fuzz-" + std::to_string(getpid()));
        std::filesystem::create_directories(f);
        std::atexit([] { std::filesystem::remove_all(home()); });
        return f;
    }();
    return folder;
}
std::filesystem::path fileOf(const std::string& extension, Bytes bytes)
{
    const auto file = home() / ("input." + extension);
    std::ofstream(file, std::ios::binary | std::ios::trunc)
        .write(bytes.data(), static_cast<std::streamsize>(bytes.size()));
    return file;
}
void set(const char* extension, Bytes bytes)
{
    JobControl job;
    geometry::importSet(fileOf(extension, bytes), job);
}
struct Format {
    const char* name;
    void (*read)(Bytes);
};
const Format formats[] = {
    {"project",
     [](Bytes b) {
         scene::Project p = scene::loadProject(fileOf("hygros", b), elements::findKind);
         scene::saveProject(p, home() / "again.hygros");
         if (scene::loadProject(home() / "again.hygros", elements::findKind).elements.size() != p.elements.size())
             throw std::logic_error("a project is another one once it was saved");
     }},
    {"recipe", [](Bytes b) { scene::loadRecipe(fileOf("hygros-recipe", b), elements::findKind); }},
    {"obj", [](Bytes b) { set("obj", b); }},
    {"gltf", [](Bytes b) { set("gltf", b); }},
    {"glb", [](Bytes b) { set("glb", b); }},
    {"ply", [](Bytes b) { set("ply", b); }},
    {"fbx", [](Bytes b) { set("fbx", b); }},
    {"exr",
     [](Bytes b) {
         const auto file = fileOf("exr", b);
         image::imageFacts(file);
         image::readImage(file);
         image::readColour(file);
     }},
    {"hdr", [](Bytes b) { light::Panorama::load(fileOf("hdr", b)); }},
    {"png", [](Bytes b) { light::Gobo::load(fileOf("png", b), 0.1f); }},
    {"ies", [](Bytes b) { light::Profile::load(fileOf("ies", b)); }},
    {"cube",
     [](Bytes b) {
         const auto table = image::ColourTable::load(fileOf("cube", b));
         F8 colour[3] = {f8(0.2f), f8(2.f), f8(-1.f)};
         table->apply(colour);
         if (!(colour[0][0] * 0.f == 0.f))
             throw std::logic_error("a table gives what is not finite");
     }},
    {"ocio",
     [](Bytes b) {
         const auto config = image::ColourConfig::load(fileOf("ocio", b));
         for (const std::string& display : config->displays()) {
             float pixel[4] = {0.2f, 2.f, 1e30f, 1.f};
             config->view({display, "", ""})->apply(pixel, 1);
         }
     }},
    {"vdb",
     [](Bytes b) {
         const auto file = fileOf("vdb", b);
         JobControl job;
         for (const media::VdbGrid& held : media::vdbGrids(file))
             media::loadVdb(file, held.name, job);
     }},
    {"frame",
     [](Bytes b) {
         FrameStore store(home() / "frames");
         const auto file = store.fileOf("fire", 7);
         std::filesystem::create_directories(file.parent_path());
         std::ofstream(file, std::ios::binary | std::ios::trunc)
             .write(b.data(), static_cast<std::streamsize>(b.size()));
         store.look("fire", 7, {{"fire.voxel", 1}});
         store.read("fire", 7);
     }},
    // Behind the digest of its frame; OpenVDB makes room for whatever its metadata tells, so not in the short run.
    {"gas", [](Bytes b) { sim::readGas(b.subspan(sim::headOf(b))); }},
};
const Format& chosen()
{
    static const Format& format = []() -> const Format& {
        const char* name = std::getenv("HYGROS_FUZZ");
        for (const Format& f : formats)
            if (name && std::string(name) == f.name)
                return f;
        std::cerr << "HYGROS_FUZZ is to be one of:";
        for (const Format& f : formats)
            std::cerr << ' ' << f.name;
        std::cerr << '\n';
        std::exit(2);
    }();
    return format;
}
} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    try {
        chosen().read({reinterpret_cast<const char*>(data), size});
    } catch (const Error&) {
        // refused with words
    }
    return 0;
}
