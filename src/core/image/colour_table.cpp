#include "image/colour_table.h"

#include "base/atomic_file.h"
#include "base/error.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <optional>
#include <string_view>

namespace hygros::image {
namespace {
const char* const doing = "Reading the colour table";
constexpr std::uintmax_t mostBytes = 256u << 20;

[[noreturn]] void refuse(const std::string& subject, const std::string& what)
{
    throw inputError(doing, subject, what, "Choose another .cube file, or clear the field.");
}

/// A line without what follows a #, and without blanks at its ends.
std::string_view trimmed(std::string_view line)
{
    line = line.substr(0, line.find('#'));
    const auto blank = [](char c) { return c == ' ' || c == '\t' || c == '\r' || c == '\f' || c == '\v'; };
    while (!line.empty() && blank(line.front()))
        line.remove_prefix(1);
    while (!line.empty() && blank(line.back()))
        line.remove_suffix(1);
    return line;
}

/// The lines of a file that say something, one by one, with words for what is wrong in them.
class Lines {
public:
    Lines(const std::string& text, const std::string& subject) : rest_(text), subject_(subject)
    {
        if (rest_.starts_with("\xef\xbb\xbf"))
            rest_.remove_prefix(3);
    }
    bool next()
    {
        while (!rest_.empty()) {
            const std::size_t end = std::min(rest_.find_first_of("\n\r"), rest_.size());
            line_ = trimmed(rest_.substr(0, end));
            const bool both = rest_.substr(end).starts_with("\r\n");
            rest_.remove_prefix(std::min(rest_.size(), end + (both ? 2 : 1)));
            ++number_;
            if (!line_.empty())
                return true;
        }
        return false;
    }
    /// The line's first word where it is none of numbers; it goes from the line.
    std::optional<std::string> keyword()
    {
        const char c = line_.front();
        if (!(c >= 'A' && c <= 'Z') && !(c >= 'a' && c <= 'z') && c != '_')
            return std::nullopt;
        const std::size_t end = std::min(line_.find_first_of(" \t"), line_.size());
        std::string word(line_.substr(0, end));
        line_ = trimmed(line_.substr(end));
        return word;
    }
    /// As many numbers as `out` has, and nothing after them.
    template <std::size_t N> void numbers(std::array<float, N>& out)
    {
        std::string_view left = line_;
        for (float& value : out) {
            left = trimmed(left);
            if (left.starts_with('+'))
                left.remove_prefix(1);
            double wide = 0.0;
            const auto [end, fault] = std::from_chars(left.data(), left.data() + left.size(), wide);
            if (fault == std::errc::invalid_argument)
                bad("where a number should stand is “" + std::string(left.substr(0, 12)) + "”");
            // Too large for any number, or so small that it is none (which is told apart by its exponent alone).
            const std::string_view word(left.data(), end);
            if (fault != std::errc() && word.find("e-") == word.npos && word.find("E-") == word.npos)
                wide = INFINITY;
            if (!std::isfinite(wide) || std::abs(wide) > 1e30)
                bad("a number is not finite");
            value = static_cast<float>(wide);
            left.remove_prefix(static_cast<std::size_t>(end - left.data()));
        }
        if (!trimmed(left).empty())
            bad("there are more than " + std::to_string(N) + " numbers");
    }
    int size(int most)
    {
        std::array<float, 1> v;
        numbers(v);
        if (v[0] != std::floor(v[0]) || v[0] < 2.f || v[0] > static_cast<float>(most))
            bad("the table's size is no number from 2 to " + std::to_string(most));
        return static_cast<int>(v[0]);
    }
    [[noreturn]] void bad(const std::string& what) const
    {
        refuse(subject_, what + " (line " + std::to_string(number_) + ").");
    }
    std::string_view line() const { return line_; }

private:
    std::string_view rest_, line_;
    const std::string& subject_;
    long number_ = 0;
};
} // namespace

std::shared_ptr<const ColourTable> ColourTable::load(const std::filesystem::path& file)
{
    std::error_code fault;
    if (const auto size = std::filesystem::file_size(file, fault); !fault && size > mostBytes)
        refuse(file.string(), "it is larger than 256 MB, no colour table of a size that is read here is.");
    return parse(readText(file, doing), file.string());
}

std::shared_ptr<const ColourTable> ColourTable::parse(const std::string& text, const std::string& subject)
{
    auto out = std::make_shared<ColourTable>();
    Lines lines(text, subject);
    std::vector<float> values; // of both tables, as they stand
    bool hasBegun = false;     // the numbers have
    Domain shared;
    std::optional<Domain> curveRange, latticeRange;
    const auto wanted = [&] {
        return 3 * (static_cast<std::size_t>(out->curveEntries_) + static_cast<std::size_t>(out->edge_) *
                                                                       static_cast<std::size_t>(out->edge_) *
                                                                       static_cast<std::size_t>(out->edge_));
    };
    while (lines.next()) {
        const auto word = lines.keyword();
        if (!word) {
            if (wanted() == 0)
                lines.bad("numbers begin before the table's size is told");
            if (values.size() >= wanted())
                lines.bad("there are more numbers than the table's size tells");
            hasBegun = true;
            std::array<float, 3> rgb;
            lines.numbers(rgb);
            values.insert(values.end(), rgb.begin(), rgb.end());
            continue;
        }
        if (hasBegun)
            lines.bad("where numbers should go on is “" + word->substr(0, 20) + "”");
        std::array<float, 3> three;
        std::array<float, 2> two;
        const auto range = [&] {
            lines.numbers(two);
            return Domain{Vec3(two[0]), Vec3(two[1])};
        };
        const auto once = [&](int has) {
            if (has != 0)
                lines.bad("the table's size is told twice");
        };
        if (*word == "TITLE") {
            out->title_ = lines.line().substr(0, 200);
            std::erase(out->title_, '"');
        } else if (*word == "LUT_1D_SIZE") {
            once(out->curveEntries_);
            out->curveEntries_ = lines.size(mostInCurves);
        } else if (*word == "LUT_3D_SIZE") {
            once(out->edge_);
            out->edge_ = lines.size(mostAlongEdge);
        } else if (*word == "DOMAIN_MIN") {
            lines.numbers(three);
            shared.from = Vec3(three[0], three[1], three[2]);
        } else if (*word == "DOMAIN_MAX") {
            lines.numbers(three);
            shared.to = Vec3(three[0], three[1], three[2]);
        } else if (*word == "LUT_1D_INPUT_RANGE") {
            curveRange = range();
        } else if (*word == "LUT_3D_INPUT_RANGE") {
            latticeRange = range();
        } else {
            lines.bad("its keyword “" + word->substr(0, 20) + "” is not known");
        }
    }
    if (wanted() == 0)
        refuse(subject, "it tells no size of a table, so it is no .cube file.");
    if (values.size() != wanted())
        refuse(subject, "it ends after " + std::to_string(values.size() / 3) + " of " + std::to_string(wanted() / 3) +
                            " lines of numbers.");
    out->curveDomain_ = curveRange.value_or(shared);
    // Behind curves a lattice takes what these give, 0 to 1, unless it tells otherwise.
    out->latticeDomain_ = latticeRange.value_or(out->curveEntries_ > 0 ? Domain{} : shared);
    for (const Domain* d : {&out->curveDomain_, &out->latticeDomain_})
        for (int c = 0; c < 3; ++c)
            if (!(d->to[c] - d->from[c] > 1e-6f))
                refuse(subject, "its domain is empty: the end lies not above the beginning.");
    const auto entries = static_cast<std::size_t>(out->curveEntries_);
    out->curves_.resize(entries * 3);
    for (std::size_t i = 0; i < entries * 3; ++i)
        out->curves_[i % 3 * entries + i / 3] = values[i];
    const std::size_t cells = values.size() / 3 - entries;
    out->lattice_.resize(cells * 4);
    for (std::size_t i = 0; i < cells * 3; ++i)
        out->lattice_[i / 3 * 4 + i % 3] = values[entries * 3 + i];
    return out;
}

void ColourTable::apply(F8 colour[3]) const
{
    /// Place among `n` entries, 0 to n − 1; what is not a number counts as the beginning.
    const auto placed = [](F8 v, const Domain& d, int c, int n) {
        const auto last = static_cast<float>(n - 1);
        return min8(max8((v - d.from[c]) * (last / (d.to[c] - d.from[c])), f8(0.f)), f8(last));
    };
    if (curveEntries_ > 0)
        for (int c = 0; c < 3; ++c) {
            const F8 at = placed(colour[c], curveDomain_, c, curveEntries_);
            const I8 i = toInt(min8(floor8(at), f8(static_cast<float>(curveEntries_ - 2))));
            const F8 f = at - toFloat(i);
            const float* own = &curves_[static_cast<std::size_t>(c) * static_cast<std::size_t>(curveEntries_)];
            for (int k = 0; k < lanes; ++k)
                colour[c][k] = own[i[k]] + (own[i[k] + 1] - own[i[k]]) * f[k];
        }
    if (edge_ == 0)
        return;
    I8 corner{};
    F8 f[3];
    const I8 along[3] = {i8(1), i8(edge_), i8(edge_ * edge_)};
    for (int c = 0; c < 3; ++c) {
        const F8 at = placed(colour[c], latticeDomain_, c, edge_);
        const I8 i = toInt(min8(floor8(at), f8(static_cast<float>(edge_ - 2))));
        f[c] = at - toFloat(i);
        corner += i * along[c];
    }
    const F8 most = max8(max8(f[0], f[1]), f[2]), least = min8(min8(f[0], f[1]), f[2]),
             middle = max8(min8(f[0], f[1]), min8(max8(f[0], f[1]), f[2]));
    // The tetrahedron's way from corner to corner: first along the largest part, last along the smallest.
    const I8 first = select((f[0] >= f[1]) & (f[0] >= f[2]), along[0], select(f[1] >= f[2], along[1], along[2])),
             last = select((f[2] <= f[1]) & (f[2] <= f[0]), along[2], select(f[1] <= f[0], along[1], along[0]));
    const I8 step = along[0] + along[1] + along[2];
    const I8 second = corner + step - last, end = corner + step, one = corner + first;
    const F8 w0 = 1.f - most, w1 = most - middle, w2 = middle - least;
    for (int k = 0; k < lanes; ++k) {
        const auto entry = [&](int at, float weight) {
            return _mm_mul_ps(_mm_loadu_ps(&lattice_[static_cast<std::size_t>(at) * 4]), _mm_set1_ps(weight));
        };
        const __m128 sum = _mm_add_ps(_mm_add_ps(entry(corner[k], w0[k]), entry(one[k], w1[k])),
                                      _mm_add_ps(entry(second[k], w2[k]), entry(end[k], least[k])));
        alignas(16) float rgb[4];
        _mm_store_ps(rgb, sum);
        for (int c = 0; c < 3; ++c)
            colour[c][k] = rgb[c];
    }
}
} // namespace hygros::image
