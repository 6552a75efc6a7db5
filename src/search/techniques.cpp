#include "arvek/search/techniques.hpp"

#include <array>
#include <utility>

namespace arvek {

namespace {

using Switch = bool Techniques::*;

constexpr std::array<std::pair<const char*, Switch>, 12> switches{{
    {"table", &Techniques::table},
    {"table_scores", &Techniques::table_scores},
    {"pvs", &Techniques::pvs},
    {"aspiration", &Techniques::aspiration},
    {"hint", &Techniques::hint},
    {"killers", &Techniques::killers},
    {"history", &Techniques::history},
    {"replies", &Techniques::replies},
    {"quiescence", &Techniques::quiescence},
    {"stages", &Techniques::stages},
    {"reductions", &Techniques::reductions},
    {"null_move", &Techniques::null_move},
}};

}  // namespace

const std::vector<std::string>& technique_names() {
    static const std::vector<std::string> names = [] {
        std::vector<std::string> all;
        for (const auto& [name, member] : switches) all.emplace_back(name);
        return all;
    }();
    return names;
}

bool* technique_named(Techniques& techniques, std::string_view name) {
    for (const auto& [known, member] : switches)
        if (name == known) return &(techniques.*member);
    return nullptr;
}

}  // namespace arvek
