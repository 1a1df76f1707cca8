#pragma once
/// A gas as an OpenVDB stream and back: grids "density" [g/m³], "temperature" [K over the air], "fuel", "vel" (on
/// faces, [m/s]), "pressure", half floats in the blocks that are in use.
#include "media/vdb.h"
#include "sim/smoke/gas.h"

#include <filesystem>
#include <span>
#include <string>

namespace hygros::sim {

std::string written(const Gas& gas, float around);
/// Throws an input Error for what is not one.
/// Makes of a gas what readGas() gives of it once it is written.
void roundAsWritten(Gas& gas);
std::shared_ptr<Gas> readGas(std::span<const char> bytes);

/// Writes such a stream as a file of its own, all grids as they are but temperatures, which are absolute there [K], as
/// whoever reads it takes them. The file is whole or what it was.
void exportGas(std::span<const char> bytes, const std::filesystem::path& file);

/// What of it is seen, ready for rays.
struct SeenGas {
    media::LoadedGrid density, temperature; ///< [g/m³], [K], absolute where it is warmer than the air
    std::size_t bytes() const { return density.bytes() + temperature.bytes(); }
};
SeenGas seenGas(std::span<const char> bytes, JobControl& job);
} // namespace hygros::sim
