#include "arvek/session/checked_profile.hpp"

#include <algorithm>
#include <tuple>

#include "arvek/game/input_error.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek {

CheckedProfile checked_profile(const std::string& source, ProfileCheckOptions options,
                               const std::function<Profile(std::vector<std::string>& problems)>& read,
                               const std::function<GameKit(const Profile& profile, bool is_partial)>& kit_of) {
    CheckedProfile found;
    std::vector<std::string> problems;
    const auto add_problems = [&] {
        for (const std::string& problem : problems) found.report.findings.push_back(finding_of(problem));
        problems.clear();
    };
    found.profile.source = source;
    try {
        found.profile = read(problems);
        options.is_partial = !problems.empty();
        const GameKit kit = kit_of(found.profile, options.is_partial);
        add_problems();
        ProfileReport report = check_profile(kit.game, found.profile, kit.choosers, options);
        found.report.use = std::move(report.use);
        found.report.findings.insert(found.report.findings.end(), report.findings.begin(), report.findings.end());
    } catch (const InputError& error) {
        add_problems();
        found.report.findings.push_back(finding_of(error.what()));
    }
    std::stable_sort(found.report.findings.begin(), found.report.findings.end(), [](const auto& x, const auto& y) {
        return std::tie(x.file, x.line, x.column) < std::tie(y.file, y.line, y.column);
    });
    for (ProfileFinding& finding : found.report.findings) {
        finding.problem = plain_line(finding.problem);
        finding.advice = plain_line(finding.advice);
        if (finding.file.empty()) finding.file = source;
    }
    return found;
}

}  // namespace arvek
