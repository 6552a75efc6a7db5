#include "findings.hpp"

#include <algorithm>

#include "arvek/game/chance.hpp"
#include "arvek/game/text.hpp"

namespace arvek::detail {

AnyPosition position_after(const AnyGame& game, const Path& path) {
    AnyPosition position = game.initial_position();
    for (const AnyMove& move : path) game.play(position, move);
    return position;
}

bool is_line_of_play(const AnyGame& game, const Path& path) {
    AnyPosition position = game.initial_position();
    for (std::size_t i = 0; i < path.size(); ++i) {
        if (game.outcome(position)) return false;
        MoveList<AnyMove> moves;
        generate_what_is_next(game, position, moves);
        const bool is_drawn = moves.empty() && chance_is_next(game, position) && !lists_events(game);
        if (!is_drawn && !moves.contains(path[i])) return false;
        if (i + 1 < path.size()) game.play(position, path[i]);
    }
    return true;
}

bool Findings::knows(const std::string& law) const {
    return std::any_of(found_.begin(), found_.end(), [&](const Found& found) { return found.law == law; });
}

bool Findings::all_of(std::initializer_list<const char*> laws) const {
    return std::all_of(found_.begin(), found_.end(), [&](const Found& found) {
        return std::any_of(laws.begin(), laws.end(), [&](const char* law) { return found.law == law; });
    });
}

void Findings::add(Found found) {
    auto& all = trying_ ? tried_ : found_;
    for (Found& known : all)
        if (known.law == found.law && known.function == found.function) {
            if (found.path.size() + found.other.size() < known.path.size() + known.other.size())
                known = std::move(found);
            return;
        }
    all.push_back(std::move(found));
}

void Findings::threw(const char* law, const std::string& what, const Path& path) {
    add({law, note_.function.load(), what, path, {}, false, again_});
}

bool Findings::holds(const Found& like, const Path& path, const Path& other, Found& found) {
    tried_.clear();
    trying_ = true;
    try {
        if (is_line_of_play(game_, path) && (!like.of_two || is_line_of_play(game_, other)))
            guarded(path, like.law.c_str(), [&] { like.again(path, like.of_two ? &other : nullptr); });
    } catch (...) {
        // The moves cannot even be played; then this is no way to the fault.
    }
    trying_ = false;
    for (Found& each : tried_)
        if (each.law == like.law && each.function == like.function) {
            found = std::move(each);
            found.again = like.again;
            return true;
        }
    return false;
}

bool Findings::leave_out(Found& found, bool of_other, const std::function<bool()>& enough) {
    const auto without = [&](Path shorter) {
        Found now;
        const Path& path = of_other ? found.path : shorter;
        const Path& other = of_other ? shorter : found.other;
        if (!holds(found, path, other, now)) return false;
        if (now.path.size() + now.other.size() >= found.path.size() + found.other.size()) return false;
        found = std::move(now);
        return true;
    };
    const auto moves = [&]() -> const Path& { return of_other ? found.other : found.path; };
    bool any = false;
    for (std::size_t many = std::max<std::size_t>(1, moves().size() / 2);; many /= 2) {
        for (std::size_t from = 0; from + many <= moves().size() && !enough();) {
            Path shorter = moves();
            shorter.erase(shorter.begin() + static_cast<std::ptrdiff_t>(from),
                          shorter.begin() + static_cast<std::ptrdiff_t>(from + many));
            if (without(std::move(shorter)))
                any = true;
            else
                ++from;
        }
        if (many <= 1) break;
    }
    // Two at once, since players take turns: what one left out must be left out by the other as well.
    constexpr std::size_t most_pairs = 3'000;
    std::size_t tried = 0;
    for (std::size_t i = 0; i < moves().size(); ++i)
        for (std::size_t j = i + 2; j < moves().size() && tried < most_pairs && !enough(); ++j, ++tried) {
            Path shorter = moves();
            shorter.erase(shorter.begin() + static_cast<std::ptrdiff_t>(j));
            shorter.erase(shorter.begin() + static_cast<std::ptrdiff_t>(i));
            if (!without(std::move(shorter))) continue;
            any = true;
            i = 0;
            j = 1;
            if (moves().size() < 2) return true;
        }
    return any;
}

/// By another move from somewhere on the way.
bool Findings::find_sooner(Found& found, bool of_other, const std::function<bool()>& enough) {
    constexpr std::size_t most_tried = 2'000;
    std::size_t tried = 0;
    const Path whole = of_other ? found.other : found.path;
    for (std::size_t length = 0; length + 2 < whole.size(); ++length) {
        const Path begin(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(length));
        const AnyPosition position = position_after(game_, begin);
        if (game_.outcome(position)) return false;
        MoveList<AnyMove> moves;
        generate_what_is_next(game_, position, moves);
        for (const AnyMove& move : moves) {
            if (++tried > most_tried || enough()) return false;
            Path path = begin;
            path.push_back(move);
            Found now;
            if (!holds(found, of_other ? found.path : path, of_other ? path : found.other, now)) continue;
            if (now.path.size() + now.other.size() >= found.path.size() + found.other.size()) continue;
            found = std::move(now);
            return true;
        }
    }
    return false;
}

void Findings::shorten(Found& found, const std::function<bool()>& enough) {
    if (!found.again) return;
    Found now;
    if (!holds(found, found.path, found.other, now)) {
        found.repeats = false;
        return;
    }
    found = std::move(now);
    for (bool again = true; again && !enough();) {
        again = leave_out(found, false, enough);
        if (found.of_two) again = leave_out(found, true, enough) || again;
        try {
            again = find_sooner(found, false, enough) || again;
            if (found.of_two) again = find_sooner(found, true, enough) || again;
        } catch (...) {
            break;  // another way breaks in another way
        }
    }
}

void Findings::shorten(const std::function<bool()>& enough) {
    for (Found& found : found_) shorten(found, enough);
}

std::vector<Fault> Findings::faults() const {
    std::vector<Fault> faults;
    const auto follow = [&](const Path& path, std::vector<std::string>& moves, std::string& text) {
        try {
            AnyPosition position = game_.initial_position();
            for (const AnyMove& move : path) {
                moves.push_back(move_name_of(game_, position, move));
                game_.play(position, move);
            }
            if (offers(game_, Ability::Text)) text = game_.position_text(position);
        } catch (...) {
            text = "(the position cannot be written)";
        }
    };
    for (const Found& found : found_) {
        Fault fault;
        fault.law = found.law;
        fault.function = found.function;
        fault.what = found.what;
        fault.repeats = found.repeats;
        follow(found.path, fault.moves, fault.position);
        fault.of_two = found.of_two;
        if (found.of_two) follow(found.other, fault.other_moves, fault.other_position);
        faults.push_back(std::move(fault));
    }
    std::stable_sort(faults.begin(), faults.end(),
                     [](const Fault& a, const Fault& b) { return a.moves.size() < b.moves.size(); });
    return faults;
}

}  // namespace arvek::detail
