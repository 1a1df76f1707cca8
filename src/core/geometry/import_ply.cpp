/// PLY, ASCII and binary of both byte orders (Turk 1994): vertices with normals and texture coordinates, and faces.
#include "geometry/set_geometry.h"

#include "base/error.h"

#include <algorithm>
#include <array>
#include <bit>
#include <charconv>
#include <cmath>
#include <cstring>
#include <fstream>
#include <sstream>

namespace hygros::geometry::detail {
namespace {
enum class Type { Int8, UInt8, Int16, UInt16, Int32, UInt32, Float, Double };

struct Property {
    std::string name;
    Type type = Type::Float, countType = Type::UInt8;
    bool list = false;
};
struct Element {
    std::string name;
    std::uint64_t count = 0;
    std::vector<Property> properties;
};

std::size_t bytesOf(Type t)
{
    static constexpr std::array<std::size_t, 8> sizes{1, 1, 2, 2, 4, 4, 4, 8};
    return sizes[static_cast<std::size_t>(t)];
}

class Reader {
public:
    Reader(const std::filesystem::path& file, std::string bytes) : file_(file), bytes_(std::move(bytes)) {}
    [[noreturn]] void refuse(const std::string& why) const
    {
        throw inputError("Importing", file_.string(), "it is damaged (" + why + ")", "Nothing was replaced.");
    }
    std::string line()
    {
        const std::size_t end = bytes_.find('\n', at_);
        if (end == std::string::npos || end - at_ > 4096)
            refuse("its header does not end");
        std::string out = bytes_.substr(at_, end - at_);
        at_ = end + 1;
        if (!out.empty() && out.back() == '\r')
            out.pop_back();
        return out;
    }
    void setForm(bool ascii, bool swapped)
    {
        ascii_ = ascii;
        swapped_ = swapped;
    }
    /// Whether what is left may hold so many of these.
    bool mayHold(const Element& e) const
    {
        std::size_t least = 0;
        for (const Property& p : e.properties)
            least += ascii_ ? 1 : bytesOf(p.list ? p.countType : p.type);
        return !e.properties.empty() && e.count <= (bytes_.size() - at_) / std::max<std::size_t>(1, least) + 1;
    }
    double number(Type t)
    {
        if (ascii_)
            return word();
        unsigned char raw[8];
        const std::size_t n = bytesOf(t);
        if (bytes_.size() - at_ < n)
            refuse("it ends early");
        std::memcpy(raw, bytes_.data() + at_, n);
        at_ += n;
        if (swapped_)
            std::reverse(raw, raw + n);
        switch (t) {
        case Type::Int8: return as<std::int8_t>(raw);
        case Type::UInt8: return as<std::uint8_t>(raw);
        case Type::Int16: return as<std::int16_t>(raw);
        case Type::UInt16: return as<std::uint16_t>(raw);
        case Type::Int32: return as<std::int32_t>(raw);
        case Type::UInt32: return as<std::uint32_t>(raw);
        case Type::Float: return static_cast<double>(as<float>(raw));
        case Type::Double: break;
        }
        return as<double>(raw);
    }
    /// How many a list holds.
    std::size_t count(Type t)
    {
        const double n = number(t);
        if (!(n >= 0.0) || n > static_cast<double>(bytes_.size() - at_) + 1.0)
            refuse("a face has more corners than the file has bytes");
        return static_cast<std::size_t>(n);
    }
    std::uint32_t index(Type t)
    {
        const double n = number(t);
        if (!(n >= 0.0) || n > 4294967295.0)
            refuse("a face refers to a vertex that is not there");
        return static_cast<std::uint32_t>(n);
    }

private:
    template <class T> static T as(const unsigned char* raw)
    {
        T out;
        std::memcpy(&out, raw, sizeof(T));
        return out;
    }
    double word()
    {
        while (at_ < bytes_.size() && std::isspace(static_cast<unsigned char>(bytes_[at_])))
            ++at_;
        double out = 0.0;
        const char *from = bytes_.data() + at_, *end = bytes_.data() + bytes_.size();
        if (from < end && *from == '+')
            ++from;
        const auto [next, error] = std::from_chars(from, end, out);
        if (error != std::errc())
            refuse(from == end ? "it ends early" : "a number cannot be read");
        at_ = static_cast<std::size_t>(next - bytes_.data());
        return out;
    }
    std::filesystem::path file_;
    std::string bytes_;
    std::size_t at_ = 0;
    bool ascii_ = true, swapped_ = false;
};

Type typeOf(const std::string& word, const Reader& in)
{
    static const std::array<std::array<const char*, 2>, 8> names{{{"char", "int8"},
                                                                  {"uchar", "uint8"},
                                                                  {"short", "int16"},
                                                                  {"ushort", "uint16"},
                                                                  {"int", "int32"},
                                                                  {"uint", "uint32"},
                                                                  {"float", "float32"},
                                                                  {"double", "float64"}}};
    for (std::size_t i = 0; i < names.size(); ++i)
        if (word == names[i][0] || word == names[i][1])
            return static_cast<Type>(i);
    in.refuse("it has a type that is none");
}

std::vector<Element> readHeader(Reader& in)
{
    if (in.line() != "ply")
        in.refuse("it does not begin as a PLY file");
    std::vector<Element> elements;
    bool told = false;
    for (std::string line = in.line(); line != "end_header"; line = in.line()) {
        std::istringstream words(line);
        std::string first, second, third;
        words >> first >> second;
        if (first == "format") {
            const bool ascii = second == "ascii", big = second == "binary_big_endian";
            if (!ascii && !big && second != "binary_little_endian")
                in.refuse("its format is not one of the three");
            in.setForm(ascii, big != (std::endian::native == std::endian::big));
            told = true;
        } else if (first == "element") {
            words >> third;
            Element e{second, 0, {}};
            const auto read = std::from_chars(third.data(), third.data() + third.size(), e.count);
            if (read.ec != std::errc() || elements.size() > 100)
                in.refuse("it does not say how many there are");
            elements.push_back(e);
        } else if (first == "property") {
            if (elements.empty() || elements.back().properties.size() > 1000)
                in.refuse("its header cannot be read");
            Property p;
            p.list = second == "list";
            if (p.list) {
                words >> second >> third;
                p.countType = typeOf(second, in);
                p.type = typeOf(third, in);
            } else {
                p.type = typeOf(second, in);
            }
            words >> p.name;
            elements.back().properties.push_back(p);
        } else if (first != "comment" && first != "obj_info" && !first.empty()) {
            in.refuse("its header cannot be read");
        }
    }
    if (!told)
        in.refuse("it does not say its format");
    return elements;
}
} // namespace

SetGeometry readPly(const std::filesystem::path& file, JobControl& job)
{
    std::ifstream stream(file, std::ios::binary);
    std::ostringstream all;
    all << stream.rdbuf();
    if (!stream)
        throw inputError("Importing", file.string(), "it cannot be read", "Nothing was replaced.");
    Reader in(file, std::move(all).str());
    Mesh m;
    m.name = file.stem().string();
    for (const Element& e : readHeader(in)) {
        if (e.count > 0 && !in.mayHold(e))
            in.refuse("it has fewer bytes than its header promises");
        const bool vertices = e.name == "vertex", faces = e.name == "face";
        const auto has = [&](const char* name) {
            return std::any_of(e.properties.begin(), e.properties.end(),
                               [&](const Property& p) { return !p.list && p.name == name; });
        };
        const bool normals = has("nx") && has("ny") && has("nz");
        const bool uvs = (has("u") && has("v")) || (has("s") && has("t")) || (has("texture_u") && has("texture_v"));
        if (vertices && !(has("x") && has("y") && has("z")))
            in.refuse("its vertices have no places");
        for (std::uint64_t i = 0; i < e.count; ++i) {
            if (i % 65536 == 0) {
                job.check();
                job.report(0.1f + 0.6f * static_cast<float>(i) / static_cast<float>(e.count), "Reading");
            }
            Vec3 place(0.f), normal(0.f);
            Vec2 uv(0.f);
            for (const Property& p : e.properties) {
                if (p.list) {
                    const std::size_t n = in.count(p.countType);
                    const bool corners = faces && (p.name == "vertex_indices" || p.name == "vertex_index");
                    std::uint32_t first = 0, before = 0;
                    for (std::size_t k = 0; k < n; ++k) {
                        if (!corners) {
                            in.number(p.type);
                            continue;
                        }
                        const std::uint32_t now = in.index(p.type);
                        if (k == 0)
                            first = now;
                        if (k >= 2) // as a fan
                            m.indices.insert(m.indices.end(), {first, before, now});
                        before = now;
                    }
                    continue;
                }
                const auto v = static_cast<float>(in.number(p.type));
                if (!vertices)
                    continue;
                const std::string& name = p.name;
                if (name.size() == 1 && name[0] >= 'x' && name[0] <= 'z')
                    place[name[0] - 'x'] = v;
                else if (name.size() == 2 && name[0] == 'n' && name[1] >= 'x' && name[1] <= 'z')
                    normal[name[1] - 'x'] = v;
                else if (name == "u" || name == "s" || name == "texture_u")
                    uv.x = v;
                else if (name == "v" || name == "t" || name == "texture_v")
                    uv.y = 1.f - v; // ours runs down
            }
            if (!vertices)
                continue;
            m.positions.push_back(place);
            if (normals)
                m.normals.push_back(normal.length2() > 0.f && std::isfinite(normal.length2()) ? normal.normalized()
                                                                                              : normal);
            if (uvs)
                m.uvs.push_back(uv);
        }
    }
    SetGeometry set;
    set.meshes.push_back(std::move(m));
    return set;
}
} // namespace hygros::geometry::detail
