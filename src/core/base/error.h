#pragma once
/// Errors that can be shown to an artist: what was being done, on what, why it failed, what to try.
#include <stdexcept>
#include <string>

namespace hygros {

/// Whose doing a failure is. Bad input is refused before anything is replaced (hygros-cli: exit code 2);
/// a failure while working is one the input cannot be blamed for (exit code 3).
enum class Fault { Input, Working };

class Error : public std::runtime_error {
public:
    /// `what()` reads "<doing> '<subject>': <why>. <remedy>", in the words of whom it is shown to (words.h).
    Error(Fault fault, const std::string& doing, const std::string& subject, const std::string& why,
          const std::string& remedy = {})
        : std::runtime_error(told(doing, subject, why, remedy)), fault_(fault)
    {
    }
    Fault fault() const { return fault_; }

private:
    static std::string told(const std::string& doing, const std::string& subject, const std::string& why,
                            const std::string& remedy);
    Fault fault_;
};

inline Error inputError(const std::string& doing, const std::string& subject, const std::string& why,
                        const std::string& remedy = {})
{
    return {Fault::Input, doing, subject, why, remedy};
}
inline Error workingError(const std::string& doing, const std::string& subject, const std::string& why,
                          const std::string& remedy = {})
{
    return {Fault::Working, doing, subject, why, remedy};
}
} // namespace hygros
