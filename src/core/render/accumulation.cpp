#include "render/accumulation.h"

#include "base/error.h"
#include "image/image.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace hygros::render {

Accumulation::Accumulation(int w, int h, LayerWish what, std::vector<std::string> from, bool veiled, bool matted)
    : width(w), height(h), wish(what), sources(std::move(from))
{
    const std::size_t n = static_cast<std::size_t>(w) * static_cast<std::size_t>(h);
    const std::size_t by = what.sources || what.lamps ? n * sources.size() * 3 : 0;
    for (std::vector<float>* one : {&paths, &setSquares, &airSquares, &depth, &airDepth, &airMet})
        one->assign(n, 0.f);
    for (std::vector<float>* three : {&set, &air, &seen, &through, &albedo, &normal})
        three->assign(n * 3, 0.f);
    veils.assign(veiled ? n * 3 : 0, 0.f);
    open.assign(matted ? n : 0, 0.f);
    airBy.assign(by, 0.f);
    setBy.assign(what.sources ? by : 0, 0.f);
    shadowBy.assign(what.shadows ? n * sources.size() * 3 : 0, 0.f);
}

double Accumulation::meanPaths() const
{
    return paths.empty() ? 0.0 : std::accumulate(paths.begin(), paths.end(), 0.0) / static_cast<double>(paths.size());
}

std::vector<float> Accumulation::tileErrors() const
{
    const int across = (width + tile - 1) / tile, down = (height + tile - 1) / tile;
    std::vector<float> errors(static_cast<std::size_t>(across * down)), light(errors.size());
    double whole = 0.0;
    for (int y = 0; y < down; ++y)
        for (int x = 0; x < across; ++x) {
            double error = 0.0, mean = 0.0;
            int count = 0;
            for (int py = y * tile; py < std::min(height, (y + 1) * tile); ++py)
                for (int px = x * tile; px < std::min(width, (x + 1) * tile); ++px, ++count) {
                    const std::size_t p = static_cast<std::size_t>(py) * static_cast<std::size_t>(width) +
                                          static_cast<std::size_t>(px);
                    const double n = std::max(1.0, static_cast<double>(paths[p]));
                    const auto meanOf = [&](const std::vector<float>& v) {
                        return static_cast<double>(luminance(Vec3(v[p * 3], v[p * 3 + 1], v[p * 3 + 2]))) / n;
                    };
                    const double sees = meanOf(seen), s = meanOf(set) - sees, a = meanOf(air);
                    // What is seen itself is even but for its outline, over which the pixel's places are spread evenly:
                    // its error falls about as n^(-3/4).
                    error += sees * std::pow(n, -0.75) +
                             std::sqrt((std::max(0.0, static_cast<double>(setSquares[p]) / n - s * s) +
                                        std::max(0.0, static_cast<double>(airSquares[p]) / n - a * a)) /
                                       n);
                    mean += s + a + sees;
                }
            const std::size_t t = static_cast<std::size_t>(y * across + x);
            errors[t] = static_cast<float>(error / count);
            light[t] = static_cast<float>(mean / count);
            whole += mean / count;
        }
    const auto floor = static_cast<float>(std::max(1e-12, 0.05 * whole / static_cast<double>(errors.size())));
    for (std::size_t t = 0; t < errors.size(); ++t)
        errors[t] /= std::max(floor, light[t]);
    return errors;
}

float Accumulation::noise() const
{
    if (paths.empty() || *std::min_element(paths.begin(), paths.end()) < 8.f)
        return 1.f;
    std::vector<float> errors = tileErrors();
    const auto at = errors.begin() + static_cast<std::ptrdiff_t>((errors.size() - 1) * 95 / 100);
    std::nth_element(errors.begin(), at, errors.end());
    return *at;
}

Layers Accumulation::layers() const
{
    Layers out;
    out.width = width;
    out.height = height;
    out.samples = static_cast<int>(std::lround(meanPaths()));
    const std::size_t n = pixels();
    out.plate.resize(n * 3);
    out.transmittance.resize(n * 3);
    out.air.resize(n * 3);
    out.depth = depth;
    out.alpha.resize(open.empty() ? 0 : n);
    for (std::size_t p = 0; p < n; ++p) {
        const float inv = 1.f / std::max(1.f, paths[p]);
        for (std::size_t c = 0; c < 3; ++c) {
            const std::size_t i = p * 3 + c;
            const float t = through[i] * inv, behind = set[i] * inv;
            out.air[i] = air[i] * inv + (veils.empty() ? 0.f : veils[i] * inv);
            out.transmittance[i] = t;
            out.plate[i] = t > 1e-8f ? behind / t : 0.f;
            if (!(t > 1e-8f)) // nothing to multiply with: what little there is stands with the air
                out.air[i] += behind;
        }
        if (!open.empty())
            out.alpha[p] = 1.f - open[p] * inv;
    }
    const auto split = [&](const std::vector<float>& from, std::vector<Layers::ByLamp>& to) {
        for (std::size_t s = 0; s < sources.size() && !from.empty(); ++s) {
            Layers::ByLamp layer{sources[s], std::vector<float>(n * 3)};
            float most = 0.f;
            for (std::size_t p = 0; p < n; ++p)
                for (std::size_t c = 0; c < 3; ++c)
                    most = std::max(most, layer.air[p * 3 + c] = from[(p * sources.size() + s) * 3 + c] /
                                                                 std::max(1.f, paths[p]));
            // What shines by itself lights the air of few shots.
            if (most > 0.f || sources[s] != "own")
                to.push_back(std::move(layer));
        }
    };
    split(airBy, out.airBy);
    split(setBy, out.setBy);
    split(shadowBy, out.shadowBy);
    if (out.airBy.empty())
        out.airBy.push_back({"all", out.air});
    else if (!veils.empty()) {
        Layers::ByLamp layer{"veils", std::vector<float>(n * 3)};
        for (std::size_t i = 0; i < n * 3; ++i)
            layer.air[i] = veils[i] / std::max(1.f, paths[i / 3]);
        out.airBy.push_back(std::move(layer));
    }
    return out;
}

template <class Self, class Body> void Accumulation::overParts(Self& a, const Body& body)
{
    body("paths", a.paths, 1);
    body("set", a.set, 3);
    body("air", a.air, 3);
    body("seen", a.seen, 3);
    body("veils", a.veils, 3);
    body("through", a.through, 3);
    body("open", a.open, 1);
    body("setSquares", a.setSquares, 1);
    body("airSquares", a.airSquares, 1);
    body("albedo", a.albedo, 3);
    body("normal", a.normal, 3);
    body("depth", a.depth, 1);
    body("airDepth", a.airDepth, 1);
    body("airMet", a.airMet, 1);
    const auto by = static_cast<int>(a.sources.size() * 3);
    body("setBy", a.setBy, by);
    body("airBy", a.airBy, by);
    body("shadowBy", a.shadowBy, by);
}

void Accumulation::save(const std::filesystem::path& file, const std::string& key) const
{
    std::vector<std::string> names;
    overParts(*this, [&](const std::string& name, const std::vector<float>& values, int each) {
        for (int c = 0; c < each && !values.empty(); ++c)
            names.push_back(name + "." + std::to_string(c));
    });
    image::Image image(width, height, names);
    std::size_t first = 0;
    overParts(*this, [&](const std::string&, const std::vector<float>& values, int each) {
        if (values.empty())
            return;
        const auto count = static_cast<std::size_t>(each);
        for (std::size_t p = 0; p < pixels(); ++p)
            std::copy_n(&values[p * count], count, &image.pixels[p * names.size() + first]);
        first += count;
    });
    std::string from;
    for (const std::string& s : sources)
        from += s + "\n";
    image::writeExr(file, image, {{"Software", "Hygros"}, {"hygros/accumulation", key}, {"hygros/sources", from}});
}

bool Accumulation::resume(const std::filesystem::path& file, const std::string& key)
{
    if (!std::filesystem::exists(file))
        return false;
    const image::FileFacts facts = image::imageFacts(file);
    std::string has, from, own;
    for (const auto& [name, value] : facts.metadata) {
        if (name == "hygros/accumulation")
            has = value;
        if (name == "hygros/sources")
            from = value;
    }
    for (const std::string& s : sources)
        own += s + "\n";
    if (has != key || from != own || facts.width != width || facts.height != height)
        return false;
    const image::Image image = image::readImage(file);
    // Everything that is asked for must be there before anything is added.
    bool whole = true;
    overParts(*this, [&](const std::string& name, const std::vector<float>& values, int each) {
        for (int c = 0; c < each && !values.empty(); ++c)
            whole = whole && image.channel(name + "." + std::to_string(c)) >= 0;
    });
    if (!whole)
        return false;
    const int counts = image.channel("paths.0");
    for (std::size_t p = 0; p < pixels(); ++p)
        for (std::size_t c = 0; c < image.channels.size(); ++c)
            if (!std::isfinite(image.pixels[p * image.channels.size() + c]) ||
                (static_cast<int>(c) == counts && image.pixels[p * image.channels.size() + c] < 0.f))
                throw inputError("Reading kept paths", file.string(),
                                 "it holds values that are not numbers; delete it to begin anew");
    const bool begun = meanPaths() > 0.0;
    overParts(*this, [&](const std::string& name, std::vector<float>& values, int each) {
        for (int c = 0; c < each && !values.empty(); ++c) {
            const auto channel = static_cast<std::size_t>(image.channel(name + "." + std::to_string(c)));
            for (std::size_t p = 0; p < pixels(); ++p) {
                float& to = values[p * static_cast<std::size_t>(each) + static_cast<std::size_t>(c)];
                const float kept = image.pixels[p * image.channels.size() + channel];
                to = name == "depth" && begun ? std::min(to, kept) : to + kept;
            }
        }
    });
    return true;
}
} // namespace hygros::render
