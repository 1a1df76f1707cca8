#pragma once
/// Names of files that are numbered by frame.
#include <string>

namespace hygros {

/// A file's name with its first run of # replaced by the frame's number in as many places; as it is without one.
std::string numbered(const std::string& name, int frame);
} // namespace hygros
