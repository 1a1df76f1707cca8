#include "base/numbered.h"

#include <algorithm>
#include <cstdio>

namespace hygros {

std::string numbered(const std::string& name, int frame)
{
    const auto first = name.find('#');
    if (first == std::string::npos)
        return name;
    const auto last = std::min(name.find_first_not_of('#', first), name.size());
    char text[64];
    std::snprintf(text, sizeof text, "%0*d", static_cast<int>(std::min<std::size_t>(last - first, 40)), frame);
    return name.substr(0, first) + text + name.substr(last);
}
} // namespace hygros
