#include "cli/commands.h"

#include "base/error.h"
#include "elements/bake.h"

#include <algorithm>
#include <csignal>
#include <cstdio>
#include <iostream>
#include <thread>
#include <unistd.h>

namespace hygros::cli {
namespace {
using State = FrameStore::State;

const char* nameOf(State state)
{
    switch (state) {
    case State::Missing: return "missing";
    case State::Fresh: return "fresh";
    case State::Stale: return "stale";
    case State::Damaged: return "damaged";
    }
    return "";
}

std::string megabytes(std::uintmax_t bytes) { return formatNumber(double(bytes) / 1e6, 3) + " MB"; }

/// "1-40 fresh, 41-100 missing"
std::string runs(const elements::BakedSpan& span)
{
    std::string text;
    for (std::size_t i = 0; i < span.states.size();) {
        std::size_t end = i;
        while (end < span.states.size() && span.states[end] == span.states[i])
            ++end;
        const int first = span.first + static_cast<int>(i), last = span.first + static_cast<int>(end) - 1;
        text += (text.empty() ? "" : ", ") + std::to_string(first) + (last > first ? "-" + std::to_string(last) : "") +
                " " + nameOf(span.states[i]);
        i = end;
    }
    return text;
}

void listStore(const scene::Project& p, const FrameStore& frames, Store& store, bool asJson)
{
    nlohmann::ordered_json all = nlohmann::ordered_json::array();
    std::uintmax_t bytes = 0;
    const auto contents = frames.contents();
    std::vector<std::string> ids = elements::simulated(p);
    for (const auto& c : contents) {
        bytes += c.bytes;
        if (std::find(ids.begin(), ids.end(), c.element) == ids.end())
            ids.push_back(c.element);
    }
    for (const std::string& id : ids) {
        const auto found = std::find_if(contents.begin(), contents.end(),
                                        [&](const FrameStore::Contents& c) { return c.element == id; });
        const std::uintmax_t own = found == contents.end() ? 0 : found->bytes;
        const std::size_t count = found == contents.end() ? 0 : found->frames.size();
        const scene::Element* e = p.find(id);
        const bool known = e && elements::kindOf(*e).solver;
        const elements::BakedSpan span = known ? elements::bakedSpan(p, id, frames, store) : elements::BakedSpan();
        if (asJson) {
            nlohmann::ordered_json one{{"element", id}, {"frames", count}, {"bytes", own}, {"inProject", known}};
            for (const State s : {State::Fresh, State::Stale, State::Missing, State::Damaged})
                one[nameOf(s)] = span.count(s);
            one["why"] = span.why;
            all.push_back(one);
            continue;
        }
        std::cout << id << "  " << count << " frames, " << megabytes(own) << "  "
                  << (known ? runs(span) : "not in the project") << (span.why.empty() ? "" : " (" + span.why + ")")
                  << "\n";
    }
    if (asJson)
        std::cout
            << nlohmann::ordered_json{{"folder", frames.folder().string()}, {"bytes", bytes}, {"elements", all}}.dump(2)
            << "\n";
    else
        std::cout << megabytes(bytes) << " in " << frames.folder().string() << "\n";
}

JobControl* running = nullptr;
} // namespace

void tellUnbaked(const scene::Project& project, int first, int last, Store& store)
{
    const auto frames = elements::frameStoreOf(project, store);
    for (const std::string& id : elements::simulated(project)) {
        scene::Project part = project;
        const elements::BakedSpan span = frames ? elements::bakedSpan(part, id, *frames, store) : elements::BakedSpan();
        elements::BakedSpan asked;
        asked.first = first;
        for (int f = first; f <= last; ++f) {
            const auto i = static_cast<std::size_t>(f - span.first);
            asked.states.push_back(f >= span.first && i < span.states.size() ? span.states[i] : State::Missing);
        }
        if (asked.count(State::Fresh) < last - first + 1)
            std::cerr << id << ": " << runs(asked) << (span.why.empty() ? "" : " (" + span.why + ")")
                      << "; hygros-cli bake does what is missing\n";
    }
}

int bakeCommand(const BakeOptions& o)
{
    scene::Project p = scene::loadProject(o.project, elements::findKind);
    if (!o.folder.empty())
        p.baked = std::filesystem::absolute(o.folder);
    FrameStore frames(p.baked, o.limit > 0.0 ? static_cast<std::uintmax_t>(o.limit * 1e9) : FrameStore::usualLimit);
    Store store;
    if (!o.element.empty() && !p.find(o.element) && !o.purge)
        throw inputError("Baking", o.element, "there is no such element in the project");
    if (o.purge) {
        std::cout << megabytes(frames.purge(o.element)) << " removed\n";
        return 0;
    }
    if (o.list) {
        listStore(p, frames, store, o.asJson);
        return 0;
    }
    std::optional<int> last;
    if (!o.frames.empty() && o.frames != "all") {
        int from = 0, to = 0;
        char rest = 0;
        if (std::sscanf(o.frames.c_str(), "%d-%d%c", &from, &to, &rest) != 2 || to < from)
            throw inputError("Reading --frames", o.frames, "frames are FIRST-LAST, such as 1-48, or all");
        if (from < p.time.first || to > p.time.last)
            throw inputError("Reading --frames", o.frames,
                             "the project has frames " + std::to_string(p.time.first) + " to " +
                                 std::to_string(p.time.last));
        last = to;
    }
    const auto ids = o.element.empty() ? elements::simulated(p) : std::vector<std::string>{o.element};
    if (ids.empty())
        std::cout << "nothing in this project is simulated\n";
    JobControl job;
    running = &job;
    std::signal(SIGINT, [](int) { running->cancel(); });
    const bool terminal = ::isatty(2);
    for (const std::string& id : ids) {
        std::jthread shown;
        if (terminal)
            shown = std::jthread([&](const std::stop_token& stop) {
                while (!stop.stop_requested()) {
                    std::fprintf(stderr, "\r%s: %-50s", id.c_str(), job.message().c_str());
                    std::this_thread::sleep_for(std::chrono::milliseconds(200));
                }
                std::fputc('\n', stderr);
            });
        try {
            const sim::BakeResult done = elements::bake(p, id, frames, store, job, {last});
            std::cout << id << ": "
                      << (done.baked == 0 ? "nothing to do, " + std::to_string(done.resumedAfter) + " frames are fresh"
                                          : std::to_string(done.baked) + " frames baked" +
                                                (done.resumedAfter ? ", after " + std::to_string(done.resumedAfter) +
                                                                         " that were fresh"
                                                                   : ""))
                      << "\n";
        } catch (const Cancelled&) {
            throw workingError("Baking", id, "it was stopped", "What is baked is kept; the same command goes on.");
        }
    }
    return 0;
}
} // namespace hygros::cli
