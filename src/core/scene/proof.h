#pragma once
/// Kept pictures with the whole state that made them. They lie in the project's file under "proofs", beside what is
/// undone and redone: going back in the history loses none.
#include "scene/project.h"

namespace hygros::scene {

struct Proof {
    std::string note;          ///< what the artist calls it
    std::string time;          ///< when it was kept, ISO 8601
    std::string picture;       ///< a small picture file (JPEG or PNG), base64
    int samples = 0;           ///< that the picture had
    Project state;             ///< its frame is the one that was looked at
    nlohmann::json unreadable; ///< where this version cannot read it: as it stands in the file; kept when saving
    bool isReadable() const { return unreadable.is_null(); }
};

/// Takes the proofs out of a project as it was read from its file.
std::vector<Proof> takeProofs(Project& project, const KindLookup& kinds);
/// Puts them into a project that is about to be written; names of files as seen from its folder to be.
void putProofs(Project& project, const std::vector<std::shared_ptr<const Proof>>& proofs,
               const std::filesystem::path& folder);
} // namespace hygros::scene
