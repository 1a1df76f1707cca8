#include "geometry/plate.h"

#include "base/error.h"
#include "base/srgb.h"
#include "geometry/set_geometry.h"
#include "image/image.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hygros::geometry {
namespace fs = std::filesystem;
namespace {
constexpr float sky = std::numeric_limits<float>::infinity();

bool isCoded(const fs::path& file)
{
    // Whole numbers are display-referred; floating point is linear.
    return image::imageFacts(file).format.find("int") != std::string::npos;
}

/// Channels of the colour picture, by name or, for a grey one, thrice the same.
bool findColour(const image::Image& in, const std::string& layer, int at[3])
{
    static constexpr const char* names[][3] = {
        {"R", "G", "B"}, {"r", "g", "b"}, {"red", "green", "blue"}, {"Y", "Y", "Y"}};
    for (const auto& n : names) {
        for (int c = 0; c < 3; ++c)
            at[c] = in.channel(layer.empty() ? n[c] : layer + "." + n[c]);
        if (at[0] >= 0 && at[1] >= 0 && at[2] >= 0)
            return true;
    }
    if (!layer.empty())
        return false;
    if (in.channels.size() != 1 && in.channels.size() < 3)
        return false;
    for (int c = 0; c < 3; ++c)
        at[c] = in.channels.size() == 1 ? 0 : c;
    return true;
}

constexpr const char* depthNames[] = {"Z", "depth.Z", "Depth.Z", "depth", "Depth", "z"};

int findDepth(const image::Image& in, const std::string& wanted, const std::string& file)
{
    if (!wanted.empty()) {
        const int c = in.channel(wanted);
        if (c < 0) {
            std::string known;
            for (const std::string& n : in.channels)
                known += (known.empty() ? "" : ", ") + n;
            throw inputError("Reading the depth", file, "it has no channel '" + wanted + "'", "It has: " + known + ".");
        }
        return c;
    }
    for (const char* name : depthNames)
        if (const int c = in.channel(name); c >= 0)
            return c;
    return 0;
}
std::string sized(int w, int h) { return std::to_string(w) + "×" + std::to_string(h); }
} // namespace

std::shared_ptr<Plate> loadPlate(const PlateSource& s)
{
    auto plate = std::make_shared<Plate>();
    const image::Image picture = image::readImage(s.picture);
    int at[3];
    if (!findColour(picture, s.reading.layer, at)) {
        std::string known;
        for (const std::string& n : picture.channels)
            known += (known.empty() ? "" : ", ") + n;
        throw inputError("Reading the plate", s.picture.string(),
                         s.reading.layer.empty() ? "it has no red, green and blue"
                                                 : "it has no layer '" + s.reading.layer + "'",
                         "It has: " + known + ".");
    }
    plate->width = picture.width;
    plate->height = picture.height;
    const std::size_t n = static_cast<std::size_t>(picture.width) * static_cast<std::size_t>(picture.height),
                      stride = picture.channels.size();
    plate->rgb.resize(n * 3);
    const bool coded = isCoded(s.picture);
    const float gain = std::exp2(s.brightness);
    std::size_t odd = 0;
    for (std::size_t p = 0; p < n; ++p)
        for (std::size_t c = 0; c < 3; ++c) {
            float v = picture.pixels[p * stride + static_cast<std::size_t>(at[c])];
            if (coded)
                v = linearOfSrgb(v);
            plate->rgb[p * 3 + c] = s.brightness == 0.f ? v : v * gain;
            odd += !std::isfinite(v);
        }
    if (odd)
        plate->notes.push_back("The picture holds " + std::to_string(odd) +
                               " values that are no finite numbers; they stay as they are.");
    plate->depth.assign(n, sky);
    if (s.depth.empty())
        return plate;

    const image::Image depth = s.depth == s.picture ? picture : image::readImage(s.depth);
    const bool other = depth.width != picture.width || depth.height != picture.height;
    if (other && !s.reading.resample) {
        plate->notes.push_back("The depth is " + sized(depth.width, depth.height) + ", the picture " +
                               sized(picture.width, picture.height) +
                               ": the depth is left out. Turn on “fit depth” to resample it to the picture.");
        return plate;
    }
    if (other)
        plate->notes.push_back("The depth is resampled from " + sized(depth.width, depth.height) + " to " +
                               sized(picture.width, picture.height) + ", nearest value.");
    const auto channel = static_cast<std::size_t>(findDepth(depth, s.reading.channel, s.depth.string()));
    std::size_t bad = 0, found = 0;
    const float perPixel = s.sensorMm / s.focalMm / static_cast<float>(picture.width);
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const int dx = std::min(depth.width - 1,
                                    static_cast<int>((static_cast<float>(x) + 0.5f) * static_cast<float>(depth.width) /
                                                     static_cast<float>(picture.width)));
            const int dy = std::min(depth.height - 1,
                                    static_cast<int>((static_cast<float>(y) + 0.5f) * static_cast<float>(depth.height) /
                                                     static_cast<float>(picture.height)));
            const float v = depth.at(dx, dy)[channel];
            if (std::isnan(v) || v < 0.f) {
                ++bad;
                continue;
            }
            float d = v * s.reading.scale;
            switch (s.reading.unit) {
            case DepthReading::Unit::Metres: d = v > 0.f ? d : sky; break;
            case DepthReading::Unit::Share: d = v >= 0.9999f ? sky : v * s.reading.maximum; break;
            case DepthReading::Unit::InvertedShare: d = v <= 1e-4f ? sky : (1.f - v) * s.reading.maximum; break;
            case DepthReading::Unit::Inverse: d = v > 0.f ? s.reading.scale / v : sky; break;
            }
            if (s.reading.along == DepthReading::Along::Axis && std::isfinite(d)) {
                const float u = (static_cast<float>(x) + 0.5f - 0.5f * static_cast<float>(picture.width)) * perPixel,
                            w = (static_cast<float>(y) + 0.5f - 0.5f * static_cast<float>(picture.height)) * perPixel;
                d *= std::sqrt(1.f + u * u + w * w);
            }
            found += std::isfinite(d);
            plate->depth[static_cast<std::size_t>(y) * static_cast<std::size_t>(picture.width) +
                         static_cast<std::size_t>(x)] = std::max(d, 1e-3f);
        }
    if (bad)
        plate->notes.push_back(std::to_string(bad) +
                               " depths are negative or not a number; there the plate counts as sky.");
    if (found == 0)
        plate->notes.push_back("No depth was found in channel “" + depth.channels[channel] +
                               "”: all of the plate counts as sky. Look at the depth's unit and channel.");
    return plate;
}

float Plate::fitted(int x, int y, int frameWidth, int frameHeight, float colour[3], const PicturePart& part) const
{
    const auto copy = [&](int px, int py) {
        const std::size_t p = static_cast<std::size_t>(py) * static_cast<std::size_t>(width) +
                              static_cast<std::size_t>(px);
        std::copy_n(&rgb[p * 3], 3, colour);
        return depth[p];
    };
    if (frameWidth == width && frameHeight == height && part.isWhole())
        return copy(x, y);
    // Both by their middles, so that the lens stays the lens.
    const double wholeHeight = frameHeight / double(part.height);
    const double size = static_cast<double>(width) * double(part.width) / frameWidth;
    const double x0 = x * size + double(part.x) * width, x1 = x0 + size;
    const double y0 = (y + double(part.y) * wholeHeight - 0.5 * wholeHeight) * size + 0.5 * height, y1 = y0 + size;
    const int mx = static_cast<int>(std::floor(0.5 * (x0 + x1))), my = static_cast<int>(std::floor(0.5 * (y0 + y1)));
    if (my < 0 || my >= height || mx < 0 || mx >= width)
        return -1.f;
    if (size <= 1.0)
        return copy(mx, my);
    double sum[3] = {0, 0, 0}, weights = 0.0;
    for (int py = std::max(0, static_cast<int>(std::floor(y0))); py < std::min<double>(height, y1); ++py)
        for (int px = std::max(0, static_cast<int>(std::floor(x0))); px < std::min<double>(width, x1); ++px) {
            const double w = (std::min(x1, px + 1.0) - std::max(x0, static_cast<double>(px))) *
                             (std::min(y1, py + 1.0) - std::max(y0, static_cast<double>(py)));
            const std::size_t p = static_cast<std::size_t>(py) * static_cast<std::size_t>(width) +
                                  static_cast<std::size_t>(px);
            for (std::size_t c = 0; c < 3; ++c)
                sum[c] += w * static_cast<double>(rgb[p * 3 + c]);
            weights += w;
        }
    const float d = copy(mx, my);
    for (std::size_t c = 0; c < 3; ++c)
        colour[c] = static_cast<float>(sum[c] / std::max(1e-9, weights));
    return d;
}

std::shared_ptr<const SetGeometry> reliefOf(const Plate& plate, float focalMm, float sensorMm, std::size_t most)
{
    const int step = std::max(
        1, static_cast<int>(std::ceil(std::sqrt(static_cast<double>(plate.depth.size()) / static_cast<double>(most)))));
    const int w = plate.width / step, h = plate.height / step;
    // One distance a cell: that of its middle. Sky has none.
    std::vector<float> cell(static_cast<std::size_t>(w) * static_cast<std::size_t>(h));
    const auto at = [&](int x, int y) {
        return cell[static_cast<std::size_t>(y) * static_cast<std::size_t>(w) + static_cast<std::size_t>(x)];
    };
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x)
            cell[static_cast<std::size_t>(y) * static_cast<std::size_t>(w) + static_cast<std::size_t>(x)] =
                plate.depth[static_cast<std::size_t>(y * step + step / 2) * static_cast<std::size_t>(plate.width) +
                            static_cast<std::size_t>(x * step + step / 2)];
    auto set = std::make_shared<SetGeometry>();
    Mesh mesh;
    const float perPixel = sensorMm / focalMm / static_cast<float>(plate.width);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const float own = at(x, y);
            if (!(own < 1e6f))
                continue;
            const auto first = static_cast<std::uint32_t>(mesh.positions.size());
            for (const auto& [cx, cy] : {std::pair(0, 0), std::pair(1, 0), std::pair(1, 1), std::pair(0, 1)}) {
                // A corner lies where the four cells around it meet, as far as they belong to one surface.
                float sum = 0.f, count = 0.f;
                for (int dy = -1; dy <= 0; ++dy)
                    for (int dx = -1; dx <= 0; ++dx) {
                        const int nx = x + cx + dx, ny = y + cy + dy;
                        if (nx < 0 || ny < 0 || nx >= w || ny >= h)
                            continue;
                        if (const float d = at(nx, ny); d > own * 0.8f && d < own * 1.25f) {
                            sum += 1.f / d;
                            count += 1.f;
                        }
                    }
                const float d = count / sum; // straight in 1/distance, as a plane is
                const float u = (static_cast<float>((x + cx) * step) - 0.5f * static_cast<float>(plate.width)) *
                                perPixel,
                            v = (static_cast<float>((y + cy) * step) - 0.5f * static_cast<float>(plate.height)) *
                                perPixel;
                mesh.positions.push_back(Vec3(u, -v, -1.f).normalized() * d);
                mesh.normals.push_back(Vec3(0, 0, 1));
                set->bounds.extendBy(mesh.positions.back());
            }
            for (const std::uint32_t k : {0u, 2u, 1u, 0u, 3u, 2u})
                mesh.indices.push_back(first + k);
        }
    if (mesh.indices.empty())
        return nullptr;
    set->triangles = mesh.indices.size() / 3;
    set->meshes.push_back(std::move(mesh));
    set->materials.emplace_back();
    return set;
}

bool hasDepth(const fs::path& file)
{
    if (!fs::exists(file))
        return false; // reading it says so
    const std::vector<std::string> channels = image::imageFacts(file).channels;
    return std::any_of(std::begin(depthNames), std::end(depthNames),
                       [&](const char* n) { return std::find(channels.begin(), channels.end(), n) != channels.end(); });
}

namespace {
/// A file's name around its last run of digits.
struct Numbered {
    std::string head, tail;
    std::size_t places = 0; ///< digits; 0: it has no number
};
Numbered numberedName(const std::string& name)
{
    const std::size_t last = name.find_last_of("0123456789", name.rfind('.') == std::string::npos ? std::string::npos
                                                                                                  : name.rfind('.'));
    if (last == std::string::npos)
        return {};
    const std::size_t before = name.find_last_not_of("0123456789", last),
                      first = before == std::string::npos ? 0 : before + 1;
    return {name.substr(0, first), name.substr(last + 1), last + 1 - first};
}
/// Calls body(number, file) for every file beside `file` that is named like it but for the number.
template <class Body> void overSeries(const fs::path& file, const Numbered& n, const Body& body)
{
    std::error_code ec;
    for (const fs::directory_entry& e :
         fs::directory_iterator(file.parent_path().empty() ? fs::path(".") : file.parent_path(), ec)) {
        const std::string other = e.path().filename().string();
        if (other.size() <= n.head.size() + n.tail.size() || other.compare(0, n.head.size(), n.head) != 0 ||
            other.compare(other.size() - n.tail.size(), n.tail.size(), n.tail) != 0)
            continue;
        const std::string middle = other.substr(n.head.size(), other.size() - n.head.size() - n.tail.size());
        if (middle.size() <= 9 && middle.find_first_not_of("0123456789") == std::string::npos)
            body(std::stoi(middle), e.path());
    }
}
} // namespace

std::optional<std::pair<int, int>> frameRange(const fs::path& file)
{
    const Numbered n = numberedName(file.filename().string());
    std::optional<std::pair<int, int>> out;
    if (n.places > 0)
        overSeries(file, n, [&](int number, const fs::path&) {
            out = out ? std::pair(std::min(out->first, number), std::max(out->second, number))
                      : std::pair(number, number);
        });
    return out;
}

fs::path frameOf(const fs::path& file, int number, std::string& note, Gaps gaps)
{
    const std::string name = file.filename().string();
    const Numbered n = numberedName(name);
    if (n.places == 0)
        return file;
    std::string digits = std::to_string(std::max(0, number));
    if (digits.size() < n.places)
        digits.insert(0, n.places - digits.size(), '0');
    const fs::path wanted = file.parent_path() / (n.head + digits + n.tail);
    std::error_code ec;
    if (fs::exists(wanted, ec))
        return wanted;
    // The nearest that is there, earlier ones first.
    int earlier = -1, later = -1;
    fs::path earlierFile, laterFile;
    overSeries(file, n, [&](int v, const fs::path& other) {
        if (v < number && v > earlier) {
            earlier = v;
            earlierFile = other;
        } else if (v > number && (later < 0 || v < later)) {
            later = v;
            laterFile = other;
        }
    });
    if (earlier < 0 && later < 0)
        return wanted; // reading it will say what is wrong
    const fs::path taken = earlier >= 0 ? earlierFile : laterFile;
    note = "Frame " + std::to_string(number) + " of " + name + " is missing; ";
    note += gaps == Gaps::Empty ? "it is left out." : taken.filename().string() + " stands in for it.";
    return gaps == Gaps::Empty ? fs::path() : taken;
}
} // namespace hygros::geometry
