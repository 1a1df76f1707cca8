#include "base/error.h"

#include "base/words.h"

namespace hygros {

std::string Error::told(const std::string& doing, const std::string& subject, const std::string& why,
                        const std::string& remedy)
{
    std::string text = sentence(doing);
    if (!subject.empty())
        text += " '" + subject + "'";
    text += ": " + sentence(why);
    if (!text.ends_with('.'))
        text += '.';
    if (!remedy.empty())
        text += ' ' + sentence(remedy);
    return text;
}
} // namespace hygros
