#pragma once
/// Undo and redo: whole projects are kept (their settings are shared), each step with a name.
#include "scene/project.h"

#include <chrono>

namespace hygros::scene {

class History {
public:
    explicit History(Project start) : states_{{std::move(start), {}, std::chrono::system_clock::now()}} {}
    const Project& now() const { return states_[at_].project; }

    /// Makes `next` the present. Steps with the same non-empty `merge` key in a row become one (a drag).
    void push(Project next, const std::string& name, const std::string& merge = {})
    {
        const bool join = !merge.empty() && merge == lastMerge_ && at_ + 1 == states_.size() && at_ > 0;
        if (join) {
            states_[at_].project = std::move(next);
        } else {
            states_.resize(at_ + 1, states_.front());
            states_.push_back({std::move(next), name, {}});
            if (states_.size() > limit)
                states_.erase(states_.begin());
            at_ = states_.size() - 1;
        }
        states_[at_].time = std::chrono::system_clock::now();
        lastMerge_ = merge;
    }
    /// Changes the present without a step: for what is not worth one (folding a group).
    void amend(Project now) { states_[at_].project = std::move(now); }
    /// Ends a drag: the next push is a step of its own.
    void close() { lastMerge_.clear(); }
    struct State {
        Project project;
        std::string name;                           ///< of the step to it
        std::chrono::system_clock::time_point time; ///< when it came about
    };
    /// All that can be gone to, the oldest first, and which of them is the present.
    const std::vector<State>& states() const { return states_; }
    std::size_t at() const { return at_; }
    void goTo(std::size_t state)
    {
        at_ = std::min(state, states_.size() - 1);
        close();
    }
    /// The same change to every state: no step, and none is lost.
    template <class Change> void changeAll(const Change& change)
    {
        for (State& s : states_)
            change(s.project);
    }
    bool canUndo() const { return at_ > 0; }
    bool canRedo() const { return at_ + 1 < states_.size(); }
    std::string undoName() const { return canUndo() ? states_[at_].name : std::string(); }
    std::string redoName() const { return canRedo() ? states_[at_ + 1].name : std::string(); }
    void undo()
    {
        if (canUndo())
            --at_;
        close();
    }
    void redo()
    {
        if (canRedo())
            ++at_;
        close();
    }

private:
    static constexpr std::size_t limit = 500;
    std::vector<State> states_;
    std::size_t at_ = 0;
    std::string lastMerge_;
};
} // namespace hygros::scene
