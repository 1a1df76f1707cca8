#include "cli/commands.h"

#include "reading/checks.h"
#include "scene/evaluate.h"

#include <iostream>

namespace hygros::cli {

int checkCommand(const std::string& file, int frame, bool asJson)
{
    using reading::Finding;
    scene::Project whole = scene::loadProject(file, elements::findKind);
    if (frame >= -1000000)
        whole.frame = frame;
    Store store;
    JobControl job;
    const auto shot = elements::freeze(whole, store, job, elements::Missing::Told);
    const scene::Project now = scene::posed(whole, whole.frame);
    const auto all = reading::checksOf(now, *shot, reading::measured(now, shot, store, job));
    static const char* const grades[] = {"trouble", "advice", "information"};
    int troubles = 0;
    nlohmann::ordered_json list = nlohmann::ordered_json::array();
    for (const Finding& f : all) {
        troubles += f.grade == Finding::Grade::Trouble;
        const char* grade = grades[static_cast<int>(f.grade)];
        const scene::Element* e = now.find(f.element);
        if (asJson) {
            nlohmann::ordered_json fix = nlohmann::ordered_json::array();
            for (const auto& [path, value] : f.fix.settings)
                fix.push_back(path + "=" + value);
            list.push_back({{"grade", grade},
                            {"check", f.id},
                            {"element", f.element},
                            {"text", f.text},
                            {"number", f.number},
                            {"fix", fix},
                            {"bakes", f.fix.bakes}});
            continue;
        }
        std::cout << grade << ": "
                  << (e                   ? e->name + ": "
                      : f.element.empty() ? ""
                                          : f.element + ": ")
                  << f.text << "\n";
        if (f.fix.bakes)
            std::cout << "    " << f.fix.label << ": hygros-cli bake " << file << " --element " << f.element << "\n";
        for (const auto& [path, value] : f.fix.settings)
            std::cout << "    " << f.fix.label << ": --set " << path << "=\"" << value << "\"\n";
    }
    if (asJson)
        std::cout
            << nlohmann::ordered_json{{"project", now.name}, {"frame", now.frameNumber()}, {"findings", list}}.dump(2)
            << "\n";
    else if (all.empty())
        std::cout << "All is well.\n";
    return troubles > 0 ? 1 : 0;
}
} // namespace hygros::cli
