#include "arvek/rules/act_filter.hpp"

#include <algorithm>

#include "arvek/game/input_error.hpp"
#include "arvek/rules/conditional_rule.hpp"

namespace arvek {

namespace {

std::vector<std::size_t> places(const char* what, const std::vector<std::string>& some,
                                const std::vector<std::string>& all) {
    std::vector<std::size_t> found;
    for (const std::string& name : some) found.push_back(detail::place_of_name(what, name, all));
    return found;
}

std::vector<char> admitted(const char* what, const std::vector<std::string>& these,
                           const std::vector<std::string>& not_these, const std::vector<std::string>& all) {
    const auto in = places(what, these, all), out = places(what, not_these, all);
    if (in.empty() && out.empty()) return {};
    std::vector<char> admits(all.size() + 1, these.empty() ? 1 : 0);
    for (const std::size_t place : in) admits[place] = 1;
    for (const std::size_t place : out) admits[place] = 0;
    return admits;
}

std::uint64_t bits(const std::vector<std::string>& some, const std::vector<std::string>& all) {
    std::uint64_t found = 0;
    for (const std::size_t place : places("kind", some, all)) found |= std::uint64_t{1} << place;
    return found;
}

std::string joined(const std::vector<std::string>& names, const char* last) {
    std::string text;
    for (std::size_t i = 0; i < names.size(); ++i) {
        if (i > 0) text += i + 1 == names.size() ? last : ", ";
        text += names[i];
    }
    return text;
}

/// "douse or haul", "anything but wait".
std::string said(const std::vector<std::string>& these, const std::vector<std::string>& not_these, const char* all) {
    std::string text = joined(these, " or ");
    if (these.empty()) text = all;
    if (!not_these.empty()) text += " but " + joined(not_these, " and ");
    return text;
}

}  // namespace

BoundActFilter::BoundActFilter(const ActFilter& filter, const ActNames& names)
    : asks_nothing_(filter.asks_nothing()),
      actors_(admitted("actor", filter.actors, filter.no_actors, names.actors)),
      actions_(admitted("action", filter.actions, filter.no_actions, names.actions)),
      targets_(admitted("target", filter.targets, filter.no_targets, names.targets)),
      kinds_(bits(filter.kinds, names.kinds)),
      no_kinds_(bits(filter.no_kinds, names.kinds)),
      actor_names_(names.actors) {
    std::string act_text = actions_.empty() ? "" : said(filter.actions, filter.no_actions, "any action");
    if (!filter.kinds.empty() || !filter.no_kinds.empty())
        act_text +=
            (act_text.empty() ? "an action of kind " : " of kind ") + said(filter.kinds, filter.no_kinds, "any");
    if (!targets_.empty())
        act_text += (act_text.empty() ? "an action on " : " on ") + said(filter.targets, filter.no_targets, "anybody");
    if (!actors_.empty()) actor_text_ = said(filter.actors, filter.no_actors, "anybody");
    text_ = act_text.empty() ? (asks_nothing_ ? "any action" : "an action") : act_text;
    unavailable_ = (act_text.empty() ? "no action" : act_text) + " is not available" +
                   (actor_text_.empty() ? "" : " to " + actor_text_);
    if (!actor_text_.empty()) text_ += " by " + actor_text_;
}

std::string BoundActFilter::why_none(const std::vector<Act>& acts) const {
    const auto acting = std::count_if(acts.begin(), acts.end(), [&](const Act& act) { return fits_actor(act); });
    if (acting == 0) {
        const bool one =
            std::all_of(acts.begin(), acts.end(), [&](const Act& act) { return act.actor == acts[0].actor; });
        if (one && acts[0].actor < actor_names_.size())
            return "it is " + actor_names_[acts[0].actor] + "'s turn, not that of " + actor_text_;
        return actor_text_ + " cannot act now";
    }
    return unavailable_;
}

}  // namespace arvek
