#pragma once
/// Movie files, written by the program `ffmpeg`, which is asked for by name.
#include <cstdint>
#include <filesystem>
#include <memory>

namespace hygros::finish {

/// Endings that a movie's name may have: .mp4, .mov, .mkv, .webm.
bool isMovie(const std::filesystem::path& file);

class MovieWriter {
public:
    /// Pictures of width×height pixels (odd rows and columns at the end are left out: most codecs want even sizes), at
    /// `frames`/`seconds` a second. Throws a working Error where the program is missing or does not start.
    MovieWriter(std::filesystem::path file, int width, int height, std::int64_t frames, std::int64_t seconds);
    /// Without finish() nothing is left of it.
    ~MovieWriter();
    MovieWriter(const MovieWriter&) = delete;
    MovieWriter& operator=(const MovieWriter&) = delete;

    /// Rows of blue, green, red and a byte of nothing, `stride` bytes from one to the next. Throws a working Error with
    /// what the program said.
    void add(const std::uint8_t* pixels, std::size_t stride);
    /// The file takes its place once it is whole.
    void finish();

private:
    struct Program;
    std::filesystem::path file_, aside_;
    int width_, height_;
    std::unique_ptr<Program> program_;
};
} // namespace hygros::finish
