#pragma once
/// Baked elements of a project: what their frames come from, what of them is there, and the bake.
#include "base/frame_store.h"
#include "elements/kinds.h"
#include "sim/bake.h"

namespace hygros::elements {

/// Elements that are simulated and not silent.
std::vector<std::string> simulated(const scene::Project& project);

/// What an element's baked frames come from: its parameters and those of what its kind names, the frame rate, the
/// first frame and the pre-roll. What changes over time counts up to each frame, so that a key far on leaves frames
/// before it fresh. Files count by their content.
class Provenance {
public:
    /// `project` with its keys. Throws an input Error where the element is not simulated.
    Provenance(const scene::Project& project, const std::string& element, Store& store);
    /// Of one frame; those before it are worked out on the way.
    Origins at(int frame);

private:
    struct Column {
        const scene::Element* element;
        const scene::Parameter* parameter;
        std::string name;
        std::uint64_t steady = 0;          ///< where it does not change over time
        std::vector<std::uint64_t> so_far; ///< else: by frame, of all values up to it
    };
    std::uint64_t digest(const Column& column, double frame) const;
    const scene::Project project_;
    Store& store_;
    Origins rules_;
    std::shared_ptr<Provenance> carrier_; ///< of what carries it; null: nothing does
    std::string carrierId_;
    std::vector<Column> columns_;
    int begin_ = 1; ///< first frame that is stepped, pre-roll included
};

/// A frame in the store, not read yet.
struct BakedFrame {
    std::shared_ptr<const FrameStore> store;
    std::string element;
    int frame = 1;
    FileVersion version;
    Payload read() const { return store->read(element, frame); }
};
/// The element's baked frame at the frame that is frozen, also a stale one: the notes say so. Nothing where it is not
/// baked; that is told.
std::optional<BakedFrame> bakedFrame(const FreezeContext& c);

/// An element's frame that is in the store, whatever it comes from; nothing where there is none or it is damaged.
std::optional<BakedFrame> keptFrame(const scene::Project& project, const std::string& element, int frame, Store& store);

/// The frame store of a project; null where it has none.
std::shared_ptr<const FrameStore> frameStoreOf(const scene::Project& project, Store& store);

/// Frames that are baked by the project's time: first to last.
struct BakedSpan {
    int first = 1;
    std::vector<FrameStore::State> states; ///< from the first frame on
    std::string why;                       ///< of the first that is stale or damaged
    std::uintmax_t bytes = 0;
    std::vector<int> changes; ///< frames from which on settings were others, while it was baked
    int count(FrameStore::State state) const
    {
        return static_cast<int>(std::count(states.begin(), states.end(), state));
    }
};
BakedSpan bakedSpan(const scene::Project& project, const std::string& element, const FrameStore& frames, Store& store);

struct BakeWishes {
    std::optional<int> last; ///< frame; the project's own without
    /// Asked at each frame: the project as it is by now, null where it is what it was. Where what the frames come from
    /// has changed, the bake goes on with that, and its frames from there on are kept as stale, with a change marked.
    std::function<std::shared_ptr<const scene::Project>()> renewed = {};
    std::function<void(int frame)> kept = {}; ///< told of each frame that is on disk
};

/// Bakes an element from the project's first frame on. Frames of elements that the project does not have, and stale
/// ones, go first where the store is full.
sim::BakeResult bake(const scene::Project& project, const std::string& element, FrameStore& frames, Store& store,
                     JobControl& job, const BakeWishes& wishes = {});
} // namespace hygros::elements
