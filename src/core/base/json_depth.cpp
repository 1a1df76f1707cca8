#include "base/json_depth.h"

#include "base/error.h"

namespace hygros {

void checkJsonDepth(const std::string& text, const std::string& doing, const std::string& subject)
{
    int depth = 0;
    bool inText = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (inText) {
            if (c == '\\')
                ++i;
            else if (c == '"')
                inText = false;
        } else if (c == '"') {
            inText = true;
        } else if (c == '[' || c == '{') {
            if (++depth > deepestJson)
                throw inputError(doing, subject,
                                 "its brackets are nested deeper than " + std::to_string(deepestJson) +
                                     " levels; it is damaged",
                                 "Nothing was replaced.");
        } else if (c == ']' || c == '}') {
            --depth;
        }
    }
}
} // namespace hygros
