#pragma once
/// What people read of the core, in their language: a window may say how English texts are shown. Ids, files and the
/// command line never change.
#include <string>

namespace hygros {

using Words = std::string (*)(const std::string& english);
/// To be set once, before anything else of the core is asked; English stays where it is not.
void setWords(Words translate);
std::string words(const std::string& english);
/// The English that words() was asked for something that is shown so; itself where it was not.
std::string englishOf(const std::string& shown);
} // namespace hygros
