#include "elements/collect.h"
#include "cli/commands.h"

#include <iostream>

namespace hygros::cli {

int collectCommand(const std::string& file, const std::string& out)
{
    scene::Project project = scene::loadProject(file, elements::findKind);
    const std::filesystem::path target = out.empty() ? file : out;
    std::filesystem::create_directories(std::filesystem::absolute(target).parent_path());
    JobControl job;
    const elements::Collected told = elements::collect(project, target, job);
    scene::saveProject(project, target);
    std::cout << target.string() << "  " << told.copied << " files copied, " << told.bytes << " bytes; " << told.there
              << " lay there\n";
    for (const std::string& missing : told.missing)
        std::cerr << "hygros-cli: '" << missing << "' is not there; it stays as it is named.\n";
    return told.missing.empty() ? 0 : 1;
}
} // namespace hygros::cli
