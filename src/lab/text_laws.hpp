#pragma once
// Malformed texts, made from good ones: each must be refused with InputError, or read to a position that can be written
// and read again.

#include <algorithm>
#include <exception>
#include <string>
#include <vector>

#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"
#include "findings.hpp"

namespace arvek::detail {

class TextLaws {
   public:
    /// Must live as long as what it finds may be asked for again.
    TextLaws(const AnyGame& game, Findings& findings) : game_(game), findings_(findings) {}

    /// So many malformed texts of a position, and of its moves.
    void examine(const AnyPosition& position, const Path& path, Random& random, int texts) {
        if (!offers(game_, Ability::Text)) return;
        const std::string good = game_.position_text(position);
        for (int i = 0; i < texts; ++i) {
            const std::string text = malformed(good, random, i);
            Findings::Looking looking(findings_, [this, text](const Path&, const Path*) { read_position(text); });
            read_position(text);
        }
        if (!offers(game_, Ability::ReadMove) || game_.outcome(position)) return;
        MoveList<AnyMove> moves;
        generate_what_is_next(game_, position, moves);
        for (int i = 0; i < texts && !moves.empty(); ++i) {
            const AnyMove& move = moves[static_cast<std::size_t>(random.below(moves.size()))];
            const std::string text = malformed(game_.move_text(position, move), random, i);
            Findings::Looking looking(findings_, [this, text](const Path& other, const Path*) {
                const AnyPosition at = position_after(game_, other);
                if (!game_.outcome(at)) read_move(at, legal_moves(game_, at), text, other);
            });
            read_move(position, moves, text, path);
        }
    }

   private:
    static std::string quoted(const std::string& text) {
        constexpr std::size_t enough = 80;
        return "'" + (text.size() > enough ? text.substr(0, enough) + "..." : text) + "'";
    }

    /// Such a text needs no moves that lead to it.
    void read_position(const std::string& text) {
        AnyPosition read;
        try {
            read = game_.read_position(text);
        } catch (const InputError&) {
            return;
        } catch (const std::exception& error) {
            findings_.fault("malformed text", "read_position",
                            quoted(text) + " is refused by what is no InputError: " + error.what(), {});
            return;
        }
        std::string again;
        try {
            again = game_.position_text(read);
            const AnyPosition twice = game_.read_position(again);
            if (twice == read) return;
            findings_.fault("malformed text", "read_position",
                            quoted(text) + " is read to a position that is written " + quoted(again) +
                                ", which is read to another one",
                            {});
        } catch (const std::exception& error) {
            findings_.fault("malformed text", "read_position",
                            quoted(text) + " is read to a position that is written " + quoted(again) +
                                ", which cannot be read: " + error.what(),
                            {});
        }
    }

    void read_move(const AnyPosition& position, const MoveList<AnyMove>& moves, const std::string& text,
                   const Path& path) {
        try {
            const AnyMove read = game_.read_move(position, text);
            if (!moves.contains(read))
                findings_.fault("malformed text", "read_move", quoted(text) + " is read to a move that is not legal",
                                path);
        } catch (const InputError&) {
        } catch (const std::exception& error) {
            findings_.fault("malformed text", "read_move",
                            quoted(text) + " is refused by what is no InputError: " + error.what(), path);
        }
    }

    /// The text with a letter dropped, doubled or swapped, a number out of range, an end missing or too much.
    static std::string malformed(std::string text, Random& random, int kind) {
        const auto place = [&](std::size_t among) { return static_cast<std::size_t>(random.below(among)); };
        if (text.empty()) return "?";
        const std::size_t at = place(text.size());
        std::vector<std::size_t> digits;
        for (std::size_t i = 0; i < text.size(); ++i)
            if (text[i] >= '0' && text[i] <= '9' && (i == 0 || text[i - 1] < '0' || text[i - 1] > '9'))
                digits.push_back(i);
        switch (kind % 10) {
            case 0: text.erase(at, 1); break;
            case 1: text.insert(at, 1, text[at]); break;
            case 2:
                if (at + 1 < text.size()) std::swap(text[at], text[at + 1]);
                break;
            case 3: text.resize(at); break;
            case 4: text += text.substr(at); break;
            case 5: text[at] = text[place(text.size())]; break;
            case 6: text[at] = "?xX0 -9/z"[place(9)]; break;
            case 7: text += random.below(2) == 0 ? " 1" : "x"; break;
            default: {
                if (digits.empty()) {
                    text.insert(at, 1, text[place(text.size())]);
                    break;
                }
                const std::size_t from = digits[place(digits.size())];
                std::size_t end = from;
                while (end < text.size() && text[end] >= '0' && text[end] <= '9') ++end;
                static const char* const numbers[] = {"-1", "99",         "255",      "1000", "99999999999999999999",
                                                      "+1", "4294967295", "00000001", "0",    "-99999"};
                text.replace(from, end - from, numbers[place(10)]);
            }
        }
        return text;
    }

    const AnyGame& game_;
    Findings& findings_;
};

}  // namespace arvek::detail
