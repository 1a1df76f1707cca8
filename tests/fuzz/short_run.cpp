/// What libFuzzer found and good files, each as it is and changed by chance, for some seconds of every format.
///
///     hygros-fuzz-short CORPUS SECONDS [SEED]     with HYGROS_FUZZ=format
/// The input under way is in `last-input`, so that one that crashes can be looked at.
#include "base/random.h"

#include <algorithm>
#include <chrono>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <string>
#include <vector>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size);

namespace {
using Bytes = std::vector<std::uint8_t>;
Bytes changed(Bytes b, const std::vector<Bytes>& others, hygros::Random& dice)
{
    const auto pick = [&](std::size_t below) { return std::min(below - 1, std::size_t(dice.next() * float(below))); };
    for (int n = 1 + int(dice.next() * 4.f); n > 0 && !b.empty(); --n) {
        const std::size_t at = pick(b.size());
        switch (int(dice.next() * 7.f)) {
        case 0: b[at] = std::uint8_t(pick(256)); break;
        case 1: b[at] ^= std::uint8_t(1u << pick(8)); break;
        case 2: b.resize(at); break;
        case 3: b.erase(b.begin() + long(at), b.begin() + long(std::min(b.size(), at + 1 + pick(16)))); break;
        case 4: b.insert(b.begin() + long(at), 1 + pick(16), std::uint8_t(pick(256))); break;
        case 5: { // a number at its end
            const std::uint8_t with = std::uint8_t(dice.next() < 0.5f ? 0xff : 0x7f);
            for (std::size_t i = at; i < std::min(b.size(), at + 4); ++i)
                b[i] = with;
            break;
        }
        default: { // a piece of another
            const Bytes& o = others[pick(others.size())];
            if (o.empty())
                break;
            const std::size_t from = pick(o.size()), length = std::min(o.size() - from, 1 + pick(64));
            b.insert(b.begin() + long(at), o.begin() + long(from), o.begin() + long(from + length));
        }
        }
    }
    return b;
}
} // namespace

int main(int argc, char** argv)
{
    if (argc < 3)
        return 2;
    std::vector<Bytes> corpus;
    std::vector<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(argv[1]))
        files.push_back(entry.path());
    std::sort(files.begin(), files.end());
    for (const auto& file : files) {
        std::ifstream in(file, std::ios::binary);
        corpus.emplace_back(std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>());
    }
    if (corpus.empty()) {
        std::cerr << argv[1] << " is empty\n";
        return 1;
    }
    const auto run = [](const Bytes& b) {
        std::ofstream("last-input", std::ios::binary | std::ios::trunc)
            .write(reinterpret_cast<const char*>(b.data()), std::streamsize(b.size()));
        const auto began = std::chrono::steady_clock::now();
        LLVMFuzzerTestOneInput(b.data(), b.size());
        if (std::chrono::steady_clock::now() - began > std::chrono::seconds(10)) {
            std::cerr << "it took more than ten seconds: last-input\n";
            std::exit(1);
        }
    };
    for (const Bytes& b : corpus)
        run(b);
    hygros::Random dice(argc > 3 ? std::uint32_t(std::stoul(argv[3])) : 1u);
    const auto end = std::chrono::steady_clock::now() + std::chrono::milliseconds(long(std::stod(argv[2]) * 1000.0));
    std::size_t runs = 0;
    for (; std::chrono::steady_clock::now() < end; ++runs)
        run(changed(corpus[std::min(corpus.size() - 1, std::size_t(dice.next() * float(corpus.size())))], corpus,
                    dice));
    std::cout << corpus.size() << " files, " << runs << " changed ones\n";
}
