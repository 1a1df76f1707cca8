#pragma once
/// Photometric profiles: how a real lamp spreads its light, from an IES file (ANSI/IES LM-63, editions of 1986 to
/// 2019).
#include "base/vec.h"

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

namespace hygros::light {

/// Candela by direction: γ from the lamp's axis (0…π), C around it. Type C photometry; symmetric files are unfolded.
class Profile {
public:
    /// Reads IES text; `subject` names it in errors. Throws an input Error: no TILT line, numbers missing or not
    /// finite, angles that do not rise, negative candela, types A and B.
    static std::shared_ptr<const Profile> parse(const std::string& text, const std::string& subject);
    static std::shared_ptr<const Profile> load(const std::filesystem::path& file);

    /// Intensity relative to the brightest toward a direction of cosine `cosGamma` to the axis that lies at (x, y)
    /// across it; 0…1.
    float relative(float cosGamma, float x, float y) const;
    /// ∫ relative dω [sr].
    float relativeFlux() const { return relativeFlux_; }
    /// The brightest intensity of the file [cd], multiplier and ballast factor included.
    float candela() const { return candela_; }
    /// Luminous flux of the file's candela [lm], and what the file rates its lamps at (negative: it does not say).
    float lumen() const { return candela_ * relativeFlux_; }
    float ratedLumen() const { return ratedLumen_; }
    /// For drawing: relative intensity at γ [rad] in the half plane C [rad].
    float at(float gamma, float c) const;
    std::size_t bytes() const { return table_.size() * sizeof(float); }

private:
    static constexpr int gammas = 181, planes = 73; ///< one degree, five degrees; both ends in
    std::vector<float> table_;                      ///< [plane][γ]
    float candela_ = 0.f, relativeFlux_ = 0.f, ratedLumen_ = -1.f;
};
} // namespace hygros::light
