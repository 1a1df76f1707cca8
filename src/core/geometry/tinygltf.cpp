// The glTF library, compiled here from its header: the packaged binary is built with other switches than its header
// shows by default, so the two do not fit together. Warnings in it are not ours to mend.
#pragma GCC diagnostic ignored "-Wall"
#pragma GCC diagnostic ignored "-Wextra"
#pragma GCC diagnostic ignored "-Wshadow"
#pragma GCC diagnostic ignored "-Wconversion"
#include <nlohmann/json.hpp>
#define TINYGLTF_IMPLEMENTATION
#include <tiny_gltf.h>
