#include "finish/movie.h"

#include "base/error.h"

#include <algorithm>
#include <cerrno>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <spawn.h>
#include <string>
#include <sys/socket.h>
#include <sys/wait.h>
#include <unistd.h>
#include <vector>

extern char** environ;

namespace hygros::finish {
namespace fs = std::filesystem;

/// The running program: its entry, and what it complains of.
struct MovieWriter::Program {
    pid_t id = -1;
    int entry = -1;
    std::FILE* said = nullptr;

    ~Program()
    {
        close();
        if (id > 0) {
            ::kill(id, SIGKILL);
            ::waitpid(id, nullptr, 0);
        }
        if (said)
            std::fclose(said);
    }
    void close()
    {
        if (entry >= 0)
            ::close(std::exchange(entry, -1));
    }
    std::string complaint() const
    {
        std::string text(400, '\0');
        std::rewind(said);
        text.resize(std::fread(text.data(), 1, text.size(), said));
        while (!text.empty() && (text.back() == '\n' || text.back() == ' '))
            text.pop_back();
        std::replace(text.begin(), text.end(), '\n', ' ');
        return text.empty() ? "ffmpeg ended before the movie was whole" : "ffmpeg says: " + text;
    }
};

bool isMovie(const fs::path& file)
{
    std::string ending = file.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return std::tolower(c); });
    return ending == ".mp4" || ending == ".mov" || ending == ".mkv" || ending == ".webm";
}

MovieWriter::MovieWriter(fs::path file, int width, int height, std::int64_t frames, std::int64_t seconds)
    : file_(std::move(file)), width_(width & ~1), height_(height & ~1), program_(std::make_unique<Program>())
{
    aside_ = file_.parent_path() / ("." + file_.stem().string() + ".part" + file_.extension().string());
    const auto fail = [&](const std::string& why, const std::string& remedy = {}) {
        throw workingError("Writing", file_.string(), why, remedy);
    };
    int ends[2];
    program_->said = std::tmpfile();
    if (!program_->said || ::socketpair(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0, ends) != 0)
        fail(std::strerror(errno));
    program_->entry = ends[0];
    std::vector<std::string> words{"ffmpeg",       "-y",
                                   "-loglevel",    "error",
                                   "-f",           "rawvideo",
                                   "-pix_fmt",     "bgra",
                                   "-s",           std::to_string(width_) + "x" + std::to_string(height_),
                                   "-r",           std::to_string(frames) + "/" + std::to_string(seconds),
                                   "-i",           "-",
                                   "-pix_fmt",     "yuv420p",
                                   aside_.string()};
    std::vector<char*> arguments;
    for (std::string& w : words)
        arguments.push_back(w.data());
    arguments.push_back(nullptr);
    posix_spawn_file_actions_t actions;
    ::posix_spawn_file_actions_init(&actions);
    ::posix_spawn_file_actions_adddup2(&actions, ends[1], 0);
    ::posix_spawn_file_actions_addopen(&actions, 1, "/dev/null", O_WRONLY, 0);
    ::posix_spawn_file_actions_adddup2(&actions, ::fileno(program_->said), 2);
    const int trouble = ::posix_spawnp(&program_->id, "ffmpeg", &actions, nullptr, arguments.data(), environ);
    ::posix_spawn_file_actions_destroy(&actions);
    ::close(ends[1]);
    if (trouble != 0) {
        program_->id = -1;
        fail(trouble == ENOENT ? "the program ffmpeg, which writes movies, is not installed"
                               : std::string("ffmpeg does not start: ") + std::strerror(trouble),
             "Numbered pictures need nothing: a name with #, such as fog.####.png.");
    }
}

MovieWriter::~MovieWriter()
{
    const bool left = program_ != nullptr;
    program_.reset();
    std::error_code none;
    if (left)
        fs::remove(aside_, none);
}

void MovieWriter::add(const std::uint8_t* pixels, std::size_t stride)
{
    for (int y = 0; y < height_; ++y) {
        const std::uint8_t* row = pixels + static_cast<std::size_t>(y) * stride;
        for (std::size_t sent = 0, all = static_cast<std::size_t>(width_) * 4; sent < all;) {
            const ssize_t n = ::send(program_->entry, row + sent, all - sent, MSG_NOSIGNAL);
            if (n < 0 && errno == EINTR)
                continue;
            if (n <= 0) {
                int state = 0;
                ::waitpid(std::exchange(program_->id, -1), &state, 0); // it has said all that it will
                throw workingError("Writing", file_.string(), program_->complaint(), "Nothing was written.");
            }
            sent += static_cast<std::size_t>(n);
        }
    }
}

void MovieWriter::finish()
{
    program_->close();
    int state = 0;
    ::waitpid(std::exchange(program_->id, -1), &state, 0);
    if (!WIFEXITED(state) || WEXITSTATUS(state) != 0)
        throw workingError("Writing", file_.string(), program_->complaint(), "Nothing was written.");
    std::error_code trouble;
    fs::rename(aside_, file_, trouble);
    if (trouble)
        throw workingError("Writing", file_.string(), trouble.message(), "Nothing was written.");
    program_.reset();
}
} // namespace hygros::finish
