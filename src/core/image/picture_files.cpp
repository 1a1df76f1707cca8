#include "image/picture_files.h"

#include "base/error.h"

#include <dlfcn.h>

namespace hygros::image {
namespace fs = std::filesystem;
namespace {
constexpr const char* moduleName = "hygros-pictures.so";

/// Beside the program, where it was installed, or where it was built.
const PictureFiles& load()
{
    std::error_code none;
    const fs::path here = fs::read_symlink("/proc/self/exe", none).parent_path();
    std::string why = "it is not there";
    for (const fs::path& folder : {here, here / ".." / HYGROS_MODULES, fs::path(HYGROS_BUILT_MODULES)}) {
        const fs::path file = folder / moduleName;
        if (!fs::exists(file, none))
            continue;
        // (Never unloaded: what it made may live as long as the program.)
        if (void* module = ::dlopen(file.c_str(), RTLD_LAZY | RTLD_LOCAL)) {
            if (const auto make = reinterpret_cast<PictureFilesMaker>(::dlsym(module, "hygrosPictureFiles")))
                return *make();
        }
        if (const char* said = ::dlerror())
            why = said;
    }
    throw workingError("Reading or writing a picture", moduleName, why,
                       "It belongs to the program: install that again. Projects are not touched by it.");
}
} // namespace

const PictureFiles& pictureFiles()
{
    static const PictureFiles& files = load(); // (tried again where it threw)
    return files;
}
} // namespace hygros::image
