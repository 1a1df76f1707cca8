#pragma once
/// Texts in the language of the window's user. They are written in English where they are used, and looked up from
/// there (Qt's translation; context "window" for what the window says, "core" for labels, helps and names of the core).
/// tools/texts collects them into translations/*.ts.
#include <QString>
#include <QStringList>
#include <exception>
#include <string>

namespace hygros::app {

QString say(const char* english);
/// For those who take what they are told as bytes.
std::string said(const char* english);
/// A name that the core has: of a choice, a family.
QString nameOf(const std::string& english);
/// A kind's name within a sentence: small, where the language writes nouns so.
QString inText(const std::string& label);
/// A number with so many decimals, and the artist's decimal sign.
QString figure(double value, int decimals);
/// As many digits as it needs, `digits` at most.
QString figures(double value, int digits = 3);
/// What went wrong, as it is told to the window's user.
QString troubleOf(const std::exception& bad);
/// What was said in English for it; itself where nothing was.
QString englishOf(const QString& shown);

/// Codes of the languages that there are, English first; and each one's own name.
QStringList languages();
QString languageName(const QString& code);
/// To be called once, before anything is said: a code, or empty for the system's language where that is one of them.
void speak(const QString& code);
} // namespace hygros::app
