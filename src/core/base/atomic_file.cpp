#include "base/atomic_file.h"

#include "base/error.h"

#include <atomic>
#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <sstream>
#include <unistd.h>

namespace hygros {
namespace fs = std::filesystem;

namespace {
void flushToDisk(const fs::path& path)
{
    const int fd = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
    if (fd < 0 || ::fsync(fd) != 0) {
        const std::string why = std::strerror(errno);
        if (fd >= 0)
            ::close(fd);
        throw workingError("Writing", path.string(), why);
    }
    ::close(fd);
}
} // namespace

void writeAtomically(const fs::path& target, const std::function<void(const fs::path&)>& write)
{
    static std::atomic<unsigned> counter{0};
    const fs::path folder = target.has_parent_path() ? target.parent_path() : fs::path(".");
    std::error_code ec;
    if (!fs::is_directory(folder, ec))
        throw inputError("Writing", target.string(), "the folder does not exist", "Choose another place.");
    if (fs::is_directory(target, ec))
        throw inputError("Writing", target.string(), "it is a folder", "Choose a file name.");
    const fs::path temporary = folder / ("." + target.stem().string() + "." + std::to_string(::getpid()) + "-" +
                                         std::to_string(counter++) + target.extension().string());
    try {
        write(temporary);
        flushToDisk(temporary);
        fs::rename(temporary, target);
    } catch (const fs::filesystem_error& e) {
        fs::remove(temporary, ec);
        throw workingError("Writing", target.string(), e.code().message(), "What was there before is untouched.");
    } catch (...) {
        fs::remove(temporary, ec);
        throw;
    }
}

void writeTextAtomically(const fs::path& target, const std::string& text)
{
    writeAtomically(target, [&](const fs::path& temporary) {
        std::ofstream out(temporary, std::ios::binary);
        out.write(text.data(), static_cast<std::streamsize>(text.size()));
        out.flush();
        if (!out)
            throw workingError("Writing", target.string(), std::strerror(errno),
                               "What was there before is untouched; check free space and permissions.");
    });
}

std::string readText(const fs::path& file, const std::string& doing)
{
    std::error_code ec;
    if (fs::is_directory(file, ec))
        throw inputError(doing, file.string(), "it is a folder, not a file");
    std::ifstream in(file, std::ios::binary);
    if (!in)
        throw inputError(doing, file.string(), std::strerror(errno));
    std::ostringstream text;
    text << in.rdbuf();
    if (in.bad())
        throw inputError(doing, file.string(), "it could not be read to the end");
    return text.str();
}
} // namespace hygros
