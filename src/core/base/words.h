#pragma once
/// What people read of the core, in their language: a window may say how English texts are shown. Ids, files and the
/// command line never change.
#include <string>
#include <utility>
#include <vector>

namespace hygros {

using Words = std::string (*)(const std::string& english);
/// To be set once, before anything else of the core is asked; English stays where it is not.
void setWords(Words translate);
std::string words(const std::string& english);
/// The same with what is told in its places, %1 to %9, which may stand in another order in another language.
std::string words(const std::string& english, const std::vector<std::string>& told);
/// The English that words() was asked for something that is shown so; itself where it was not.
std::string englishOf(const std::string& shown);

/// Sentences that are put together as they happen, what errors say above all: English with places for what is told,
/// "frame %1 is not baked", and how that is shown, with the same places in any order. To be set once, as the words.
void setSentences(std::vector<std::pair<std::string, std::string>> known);
/// `english` as the known sentence that fits it with the most letters, what fills its places by sentences of its own;
/// itself where none fits.
std::string sentence(const std::string& english);
} // namespace hygros
