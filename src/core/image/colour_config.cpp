#include "image/colour_config.h"

#include "base/atomic_file.h"
#include "base/error.h"

#include <OpenColorIO/OpenColorIO.h>
#include <algorithm>
#include <cstring>
#include <map>
#include <set>
#include <sstream>
#include <stdexcept>

namespace hygros::image {
namespace ocio = OCIO_NAMESPACE;
namespace fs = std::filesystem;
namespace {
const char* const doing = "Reading the colour configuration";
constexpr std::uintmax_t mostBesideBytes = std::uintmax_t{1} << 30; ///< of one file that it names

[[noreturn]] void refuse(const std::string& subject, const std::string& what)
{
    throw inputError(doing, subject, what, "Choose another .ocio file, or clear the field.");
}

/// Rec. 709 (D65) to ACES2065-1 (D60), adapted after Bradford (Academy TB-2018-001 and S-2008-001).
constexpr double toAces[16] = {0.4396329819, 0.3829886982, 0.1773783199, 0.0, //
                               0.0897764431, 0.8134394287, 0.0967841283, 0.0, //
                               0.0175411704, 0.1115465500, 0.8709122796, 0.0, //
                               0.0,          0.0,          0.0,          1.0};

/// What the transforms of a configuration refer to: files, and each other.
class References {
public:
    explicit References(ocio::ConstConfigRcPtr config) : config_(std::move(config))
    {
        for (int i = 0; i < config_->getNumColorSpaces(ocio::SEARCH_REFERENCE_SPACE_ALL, ocio::COLORSPACE_ALL); ++i) {
            const char* name = config_->getColorSpaceNameByIndex(ocio::SEARCH_REFERENCE_SPACE_ALL, ocio::COLORSPACE_ALL,
                                                                 i);
            if (const auto space = config_->getColorSpace(name)) {
                at_ = &to_[{Sort::Space, name}];
                add(space->getTransform(ocio::COLORSPACE_DIR_TO_REFERENCE));
                add(space->getTransform(ocio::COLORSPACE_DIR_FROM_REFERENCE));
            }
        }
        for (int i = 0; i < config_->getNumLooks(); ++i)
            if (const auto look = config_->getLook(config_->getLookNameByIndex(i))) {
                at_ = &to_[{Sort::Look, config_->getLookNameByIndex(i)}];
                refersTo(look->getProcessSpace());
                add(look->getTransform());
                add(look->getInverseTransform());
            }
        for (int i = 0; i < config_->getNumViewTransforms(); ++i)
            if (const auto view = config_->getViewTransform(config_->getViewTransformNameByIndex(i))) {
                at_ = &to_[{Sort::ViewTransform, config_->getViewTransformNameByIndex(i)}];
                add(view->getTransform(ocio::VIEWTRANSFORM_DIR_TO_REFERENCE));
                add(view->getTransform(ocio::VIEWTRANSFORM_DIR_FROM_REFERENCE));
            }
        for (int i = 0; i < config_->getNumNamedTransforms(); ++i)
            if (const auto named = config_->getNamedTransform(config_->getNamedTransformNameByIndex(i))) {
                at_ = &to_[{Sort::Named, config_->getNamedTransformNameByIndex(i)}];
                add(named->getTransform(ocio::TRANSFORM_DIR_FORWARD));
                add(named->getTransform(ocio::TRANSFORM_DIR_INVERSE));
            }
    }
    const std::set<fs::path>& files() const { return files_; }
    /// One that refers to itself by way of others, which the library would follow without end; empty: none does.
    std::string inACircle() const
    {
        std::map<Name, int> seen; // 1: on the way, 2: all of it looked at
        for (const auto& [name, ignored] : to_)
            if (const std::string found = circleFrom(name, seen, 0); !found.empty())
                return found;
        return {};
    }

private:
    enum class Sort { Space, Look, ViewTransform, Named };
    using Name = std::pair<Sort, std::string>;

    std::string circleFrom(const Name& name, std::map<Name, int>& seen, int depth) const
    {
        int& state = seen[name];
        if (state == 2)
            return {};
        if (state == 1 || depth > 500) // so deep is none that was made by hand
            return name.second;
        state = 1;
        if (const auto of = to_.find(name); of != to_.end())
            for (const Name& next : of->second)
                if (const std::string found = circleFrom(next, seen, depth + 1); !found.empty())
                    return found;
        state = 2;
        return {};
    }
    std::string resolved(const char* text) const
    {
        return text ? config_->getCurrentContext()->resolveStringVar(text) : std::string();
    }
    /// A colour space by its name, alias or role; or a named transform.
    void refersTo(const char* text)
    {
        const std::string name = resolved(text);
        if (const auto space = config_->getColorSpace(name.c_str()))
            at_->insert({Sort::Space, space->getName()});
        if (const auto named = config_->getNamedTransform(name.c_str()))
            at_->insert({Sort::Named, named->getName()});
    }
    /// "cool, -warm | none".
    void refersToLooks(const char* text)
    {
        std::string name;
        for (const char c : resolved(text) + ",")
            if (!std::strchr(",:|", c)) {
                name += c;
            } else {
                const auto from = name.find_first_not_of(" +-\t"), to = name.find_last_not_of(" \t");
                if (from != std::string::npos)
                    at_->insert({Sort::Look, name.substr(from, to + 1 - from)});
                name.clear();
            }
    }
    void add(const ocio::ConstTransformRcPtr& transform, int depth = 0)
    {
        if (!transform)
            return;
        if (depth > 64)
            throw std::runtime_error("its transforms are nested deeper than 64");
        if (const auto group = std::dynamic_pointer_cast<const ocio::GroupTransform>(transform)) {
            for (int i = 0; i < group->getNumTransforms(); ++i)
                add(group->getTransform(i), depth + 1);
        } else if (const auto file = std::dynamic_pointer_cast<const ocio::FileTransform>(transform)) {
            try {
                const fs::path found = config_->getCurrentContext()->resolveFileLocation(file->getSrc());
                std::error_code bad;
                if (fs::is_regular_file(found, bad))
                    files_.insert(fs::absolute(found).lexically_normal());
            } catch (const ocio::Exception&) {
                // It is not there: said when it is needed.
            }
        } else if (const auto between = std::dynamic_pointer_cast<const ocio::ColorSpaceTransform>(transform)) {
            refersTo(between->getSrc());
            refersTo(between->getDst());
        } else if (const auto look = std::dynamic_pointer_cast<const ocio::LookTransform>(transform)) {
            refersTo(look->getSrc());
            refersTo(look->getDst());
            refersToLooks(look->getLooks());
        } else if (const auto shown = std::dynamic_pointer_cast<const ocio::DisplayViewTransform>(transform)) {
            refersTo(shown->getSrc());
            const std::string display = resolved(shown->getDisplay()), view = resolved(shown->getView());
            refersTo(config_->getDisplayViewColorSpaceName(display.c_str(), view.c_str()));
            refersToLooks(config_->getDisplayViewLooks(display.c_str(), view.c_str()));
            at_->insert({Sort::ViewTransform, config_->getDisplayViewTransformName(display.c_str(), view.c_str())});
        }
    }
    ocio::ConstConfigRcPtr config_;
    std::set<fs::path> files_;
    std::map<Name, std::set<Name>> to_;
    std::set<Name>* at_ = nullptr; ///< of which is read
};
} // namespace

struct ColourView::Work {
    ocio::ConstCPUProcessorRcPtr processor;
};
struct ColourConfig::Work {
    ocio::ConstConfigRcPtr config;
};

ColourView::ColourView(ColourViewNames names, Light light, std::unique_ptr<const Work> work)
    : names_(std::move(names)), light_(light), work_(std::move(work))
{
}
ColourView::~ColourView() = default;
ColourConfig::ColourConfig(std::unique_ptr<const Work> work) : work_(std::move(work)) {}
ColourConfig::~ColourConfig() = default;

void ColourView::apply(float* rgba, std::size_t count) const
{
    if (count == 0)
        return;
    ocio::PackedImageDesc pixels(rgba, static_cast<long>(count), 1, 4);
    work_->processor->apply(pixels);
}

std::shared_ptr<const ColourConfig> ColourConfig::load(const fs::path& file)
{
    std::error_code bad;
    if (const auto size = fs::file_size(file, bad); !bad && size > mostBytes)
        refuse(file.string(), "It is larger than 16 MB.");
    return parse(readText(file, doing), file);
}

std::shared_ptr<const ColourConfig> ColourConfig::parse(const std::string& text, const fs::path& file)
{
    static const bool silent = [] { return ocio::SetLoggingLevel(ocio::LOGGING_LEVEL_NONE), true; }();
    (void)silent;
    const std::string subject = file.string();
    try {
        std::istringstream in(text);
        const ocio::ConfigRcPtr read = ocio::Config::CreateFromStream(in)->createEditableCopy();
        read->setWorkingDir(fs::absolute(file).parent_path().c_str());
        const ocio::ConstConfigRcPtr config = read;
        auto own = std::make_unique<Work>();
        own->config = config;
        auto result = std::make_shared<ColourConfig>(std::move(own));
        result->subject_ = subject;
        result->bytes_ = 8 * text.size();
        for (int i = 0; i < config->getNumDisplays(); ++i)
            if (const std::string display = config->getDisplay(i); !result->views(display).empty())
                result->displays_.push_back(display);
        if (result->displays_.empty())
            refuse(subject, "It shows nothing: it has no display with a view.");
        for (int i = 0; i < config->getNumColorSpaces(ocio::SEARCH_REFERENCE_SPACE_SCENE, ocio::COLORSPACE_ACTIVE); ++i)
            if (const auto space = config->getColorSpace(
                    config->getColorSpaceNameByIndex(ocio::SEARCH_REFERENCE_SPACE_SCENE, ocio::COLORSPACE_ACTIVE, i));
                space && !space->isData())
                result->lights_.push_back(space->getName());
        const References references(config);
        if (const std::string name = references.inACircle(); !name.empty())
            refuse(subject, "Its " + name + " refers to itself by way of others.");
        for (const fs::path& beside : references.files())
            result->beside_.push_back(versionOf(beside));
        // The library keeps files that it read by their names alone.
        ocio::ClearAllCaches();
        return result;
    } catch (const Error&) {
        throw;
    } catch (const std::exception& e) {
        refuse(subject, std::string("It is no OpenColorIO configuration that can be used: ") + e.what());
    }
}

std::vector<std::string> ColourConfig::views(const std::string& display) const
{
    const ocio::ConstConfigRcPtr& config = work_->config;
    const std::string of = !display.empty() ? display : displays_.empty() ? std::string() : displays_.front();
    std::vector<std::string> all;
    for (int i = 0; i < config->getNumViews(of.c_str()); ++i)
        all.push_back(config->getView(of.c_str(), i));
    if (const auto own = std::find(all.begin(), all.end(), config->getDefaultView(of.c_str())); own != all.end())
        std::rotate(all.begin(), own, own + 1);
    return all;
}

std::shared_ptr<const ColourView> ColourConfig::view(const ColourViewNames& wished) const
{
    const ocio::ConstConfigRcPtr& config = work_->config;
    ColourViewNames names = wished;
    const auto has = [](const std::vector<std::string>& all, const std::string& name) {
        return std::find(all.begin(), all.end(), name) != all.end();
    };
    const auto listed = [](const std::vector<std::string>& all) {
        std::string text;
        for (std::size_t i = 0; i < std::min<std::size_t>(all.size(), 12); ++i)
            text += (i > 0 ? ", " : "") + all[i];
        return text + (all.size() > 12 ? ", …" : "");
    };
    if (names.display.empty())
        names.display = displays_.front();
    else if (!has(displays_, names.display))
        refuse(subject_, "It has no display \"" + names.display + "\" but " + listed(displays_) + ".");
    const std::vector<std::string> all = views(names.display);
    if (names.view.empty())
        names.view = all.front();
    else if (!has(all, names.view))
        refuse(subject_,
               "Its display " + names.display + " has no view \"" + names.view + "\" but " + listed(all) + ".");
    for (const FileVersion& file : beside_)
        if (file.size > mostBesideBytes)
            refuse(subject_, file.path.filename().string() + ", which it reads, is larger than 1 GB.");
    try {
        auto group = ocio::GroupTransform::Create();
        auto shows = ocio::DisplayViewTransform::Create();
        shows->setDisplay(names.display.c_str());
        shows->setView(names.view.c_str());
        ColourView::Light light = ColourView::Light::Named;
        if (!names.light.empty()) {
            if (!config->getColorSpace(names.light.c_str()))
                refuse(subject_, "It has no colour space \"" + names.light + "\".");
            shows->setSrc(names.light.c_str());
        } else if (config->hasRole("aces_interchange")) {
            light = ColourView::Light::Converted;
            auto matrix = ocio::MatrixTransform::Create();
            matrix->setMatrix(toAces);
            group->appendTransform(matrix);
            shows->setSrc("aces_interchange");
        } else {
            light = ColourView::Light::Assumed;
            const auto own = config->getColorSpace(ocio::ROLE_SCENE_LINEAR);
            if (!own)
                refuse(subject_, "It does not say which colour space is linear light: it has neither the role "
                                 "aces_interchange nor scene_linear. Choose one of its spaces for light.");
            names.light = own->getName();
            shows->setSrc(ocio::ROLE_SCENE_LINEAR);
        }
        group->appendTransform(shows);
        auto work = std::make_unique<ColourView::Work>();
        work->processor = config->getProcessor(group)->getDefaultCPUProcessor();
        return std::make_shared<const ColourView>(std::move(names), light, std::move(work));
    } catch (const Error&) {
        throw;
    } catch (const std::exception& e) {
        refuse(subject_, std::string("It cannot show its view: ") + e.what());
    }
}
} // namespace hygros::image
