#include "light/profile.h"

#include "base/error.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fstream>
#include <sstream>

namespace hygros::light {
namespace {
[[noreturn]] void refuse(const std::string& subject, const std::string& what)
{
    throw inputError("Reading the photometric file", subject, what, "Choose another IES file, or clear the field.");
}

/// Numbers apart by blanks, commas and line ends.
class Numbers {
public:
    Numbers(const std::string& text, std::size_t from, const std::string& subject)
        : text_(text), at_(from), subject_(subject)
    {
    }
    float next(const char* what)
    {
        while (at_ < text_.size() && (std::isspace(static_cast<unsigned char>(text_[at_])) || text_[at_] == ','))
            ++at_;
        if (at_ >= text_.size())
            refuse(subject_, std::string("it ends before its ") + what + ".");
        const char *begin = text_.data() + at_ + (text_[at_] == '+' ? 1 : 0), *last = text_.data() + text_.size();
        // Not strtof: what it reads is the desktop's language's.
        double wide = 0.0;
        const auto [end, fault] = std::from_chars(begin, last, wide);
        const auto value = fault == std::errc::result_out_of_range ? INFINITY : static_cast<float>(wide);
        if (fault == std::errc::invalid_argument)
            refuse(subject_,
                   std::string("where a number of its ") + what + " should stand is “" + text_.substr(at_, 12) + "”.");
        if (!std::isfinite(value))
            refuse(subject_, std::string("a number of its ") + what + " is not finite.");
        at_ += static_cast<std::size_t>(end - text_.data()) - at_;
        return value;
    }
    int count(const char* what, int most)
    {
        const float v = next(what);
        if (v != std::floor(v) || v < 1.f || v > static_cast<float>(most))
            refuse(subject_, std::string("its ") + what + " is no number from 1 to " + std::to_string(most) + ".");
        return static_cast<int>(v);
    }

private:
    const std::string& text_;
    std::size_t at_;
    const std::string& subject_;
};

/// Place of `x` between rising values: the lower one's index and the share toward the next.
std::pair<std::size_t, float> between(const std::vector<float>& values, float x)
{
    const auto after = std::upper_bound(values.begin(), values.end(), x);
    if (after == values.begin())
        return {0, 0.f};
    if (after == values.end())
        return {values.size() - 1, 0.f};
    const auto i = static_cast<std::size_t>(after - values.begin()) - 1;
    return {i, (x - values[i]) / std::max(1e-6f, values[i + 1] - values[i])};
}
} // namespace

std::shared_ptr<const Profile> Profile::load(const std::filesystem::path& file)
{
    std::ifstream in(file, std::ios::binary);
    if (!in)
        throw inputError("Reading the photometric file", file.string(), "it cannot be opened",
                         "Check the name, or clear the field.");
    std::ostringstream text;
    text << in.rdbuf();
    if (text.str().size() > (8u << 20))
        refuse(file.string(), "it is larger than 8 MB, no photometric file is.");
    return parse(text.str(), file.string());
}

std::shared_ptr<const Profile> Profile::parse(const std::string& text, const std::string& subject)
{
    const std::size_t tilt = text.find("TILT=");
    if (tilt == std::string::npos)
        refuse(subject, "it has no TILT line, so it is no IES file.");
    std::size_t line = text.find('\n', tilt);
    std::string kind = text.substr(tilt + 5, line == std::string::npos ? std::string::npos : line - tilt - 5);
    while (!kind.empty() && std::isspace(static_cast<unsigned char>(kind.back())))
        kind.pop_back();
    if (line == std::string::npos)
        refuse(subject, "it ends after its TILT line.");
    Numbers n(text, line, subject);
    if (kind == "INCLUDE") {
        // How the flux falls when the lamp is tilted: read past.
        n.next("tilt");
        for (int i = 2 * n.count("number of tilt angles", 1000); i > 0; --i)
            n.next("tilt");
    }
    const float lamps = n.next("number of lamps"), rated = n.next("lumens"), multiplier = n.next("multiplier");
    const int rows = n.count("number of vertical angles", 2000), columns = n.count("number of horizontal angles", 2000);
    const float type = n.next("photometric type");
    if (type != 1.f)
        refuse(subject, type == 2.f || type == 3.f
                            ? "it is of photometric type B or A (floodlights, vehicles); type C is read."
                            : "its photometric type is none of 1, 2, 3.");
    for (int i = 0; i < 4; ++i)
        n.next("unit and size");
    const float ballast = n.next("ballast factor");
    n.next("header");
    n.next("input watts");
    const auto angles = [&](int count, const char* what) {
        std::vector<float> out;
        for (int i = 0; i < count; ++i) {
            out.push_back(n.next(what));
            if (i > 0 && out.back() <= out[out.size() - 2])
                refuse(subject, std::string("its ") + what + " do not rise.");
        }
        return out;
    };
    const std::vector<float> vertical = angles(rows, "vertical angles"),
                             horizontal = angles(columns, "horizontal angles");
    if (vertical.front() < 0.f || vertical.back() > 180.f || horizontal.back() > 360.f)
        refuse(subject, "its angles leave 0…180° or 0…360°.");
    std::vector<float> candela(static_cast<std::size_t>(rows) * static_cast<std::size_t>(columns));
    for (float& c : candela) {
        c = n.next("candela");
        if (c < 0.f)
            refuse(subject, "one of its candela is negative.");
    }

    auto out = std::make_shared<Profile>();
    const float scale = multiplier * ballast;
    const float span = horizontal.back() - horizontal.front();
    out->table_.resize(static_cast<std::size_t>(planes) * gammas);
    float most = 0.f;
    for (int p = 0; p < planes; ++p) {
        // Unfold quadrants and halves.
        float c = 5.f * static_cast<float>(p);
        if (columns == 1)
            c = horizontal.front();
        else if (span <= 90.5f)
            c = c <= 90.f ? c : c <= 180.f ? 180.f - c : c <= 270.f ? c - 180.f : 360.f - c;
        else if (span <= 180.5f && horizontal.front() < 45.f)
            c = c <= 180.f ? c : 360.f - c;
        else if (span <= 180.5f) // halves about the 90–270 plane
            c = c < 90.f ? 180.f - c : c > 270.f ? 540.f - c : c;
        const auto [h, hf] = between(horizontal, c);
        for (int g = 0; g < gammas; ++g) {
            float v = 0.f;
            if (const auto gamma = static_cast<float>(g);
                gamma >= vertical.front() - 1e-3f && gamma <= vertical.back() + 1e-3f) {
                const auto at = between(vertical, gamma);
                const std::size_t r = at.first;
                const float rf = at.second;
                const auto value = [&](std::size_t column) {
                    const float* own = &candela[column * static_cast<std::size_t>(rows)];
                    return own[r] + (own[std::min(r + 1, static_cast<std::size_t>(rows) - 1)] - own[r]) * rf;
                };
                v = value(h) + (value(std::min(h + 1, static_cast<std::size_t>(columns) - 1)) - value(h)) * hf;
            }
            out->table_[static_cast<std::size_t>(p) * gammas + static_cast<std::size_t>(g)] = v;
            most = std::max(most, v);
        }
    }
    if (most <= 0.f || scale <= 0.f)
        refuse(subject, "it sends no light: all of its candela are 0.");
    for (float& v : out->table_)
        v /= most;
    out->candela_ = most * scale;
    out->ratedLumen_ = rated < 0.f ? -1.f : rated * lamps;
    // Straight between degrees: ∫ I sin γ dγ of each piece in closed form, the mean of neighbouring half planes.
    double flux = 0.0;
    for (std::size_t p = 0; p + 1 < planes; ++p)
        for (std::size_t g = 0; g + 1 < gammas; ++g) {
            const double a = double(g) * std::numbers::pi / 180.0, b = double(g + 1) * std::numbers::pi / 180.0,
                         w = b - a;
            const double i0 = 0.5 * (double(out->table_[p * gammas + g]) + double(out->table_[(p + 1) * gammas + g]));
            const double i1 = 0.5 *
                              (double(out->table_[p * gammas + g + 1]) + double(out->table_[(p + 1) * gammas + g + 1]));
            const double slope = (i1 - i0) / w;
            flux += i0 * std::cos(a) - i1 * std::cos(b) + slope * (std::sin(b) - std::sin(a));
        }
    out->relativeFlux_ = static_cast<float>(flux * 5.0 * std::numbers::pi / 180.0);
    return out;
}

float Profile::at(float gamma, float c) const
{
    const float turn = c * (0.5f / pi), g = std::clamp(gamma * (180.f / pi), 0.f, 180.f - 1e-3f);
    const float p = (turn - std::floor(turn)) * (planes - 1);
    const int p0 = std::min(static_cast<int>(p), planes - 2), g0 = static_cast<int>(g);
    const float fp = p - static_cast<float>(p0), fg = g - static_cast<float>(g0);
    const float* a = &table_[static_cast<std::size_t>(p0 * gammas + g0)];
    const float near = a[0] + (a[1] - a[0]) * fg, far = a[gammas] + (a[gammas + 1] - a[gammas]) * fg;
    return near + (far - near) * fp;
}

float Profile::relative(float cosGamma, float x, float y) const
{
    return at(std::acos(std::clamp(cosGamma, -1.f, 1.f)), std::atan2(y, x));
}
} // namespace hygros::light
