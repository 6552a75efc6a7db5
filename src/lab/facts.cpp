#include "arvek/lab/facts.hpp"

#include <algorithm>
#include <exception>
#include <utility>

#include "arvek/game/chance.hpp"
#include "arvek/game/data_file.hpp"
#include "arvek/game/text.hpp"
#include "arvek/lab/count.hpp"

namespace arvek {

namespace {

class FactsReader {
   public:
    FactsReader(const AnyGame& game, const DataFile& file) : game_(game), file_(file) {}

    FactsReport report() {
        file_.allow_only(file_.root(), {"fact"});
        const auto facts = file_.tables(file_.root(), "fact", 10'000);
        if (facts.empty()) file_.fail(file_.root(), "there is no fact in it", "[[fact]]");
        for (const DataNode* fact : facts) {
            read_names(*fact);
            ++report_.facts;
            try {
                hold(*fact);
            } catch (const FileError& error) {
                throw error.error;
            } catch (const std::exception& error) {
                fault(*fact, std::string("the game threw: ") + error.what());
            }
        }
        return std::move(report_);
    }

   private:
    /// An error of the file, not of the game.
    struct FileError {
        InputError error;
    };
    template <class Read>
    static auto of_file(Read read) {
        try {
            return read();
        } catch (const InputError& error) {
            throw FileError{error};
        }
    }

    void read_names(const DataNode& fact) {
        file_.require_table(fact, "a fact", "[[fact]]");
        file_.allow_only(fact, {"about", "position", "moves", "legal", "not_legal", "only", "to_move", "over",
                                "payoffs", "chance", "after", "sequences", "refused"});
        about_ = file_.text(file_.required(fact, "about", "\"a full column takes no more\""), "about");
        if (fact.find("position") != nullptr && fact.find("moves") != nullptr)
            file_.fail(*fact.find("moves"), "there is a position too", "one of the two");
        if (fact.entries.size() - 1 == (fact.find("position") != nullptr ? 1u : 0u) + (fact.find("moves") ? 1u : 0u))
            file_.fail(fact, "it says nothing that could hold", "legal, not_legal, only, to_move, over, payoffs, ...");
    }

    void fault(const DataNode& where, const std::string& what) {
        report_.faults.push_back({file_.at(where.place), about_, what});
    }

    std::vector<std::string> texts(const DataNode& node, const std::string& what) const {
        return of_file([&] {
            if (node.kind != DataNode::Kind::List) file_.fail(node, what + " is no list", "[\"a1\", \"b2\"]");
            std::vector<std::string> all;
            for (const DataNode& item : node.items) all.push_back(file_.text(item, what));
            return all;
        });
    }

    void hold(const DataNode& fact) {
        AnyPosition position;
        if (!stand(fact, position)) return;
        const auto outcome = game_.outcome(position);
        hold_end(fact, outcome);
        const bool chance = !outcome && chance_is_next(game_, position);
        if (const DataNode* node = fact.find("chance"))
            if (of_file([&] { return file_.boolean(*node, "chance"); }) != chance)
                fault(*node, chance ? "chance is next" : "chance is not next");
        std::vector<std::string> legal;
        MoveList<AnyMove> moves;
        if (!outcome) generate_what_is_next(game_, position, moves);
        for (const AnyMove& move : moves) legal.push_back(game_.move_text(position, move));
        hold_moves(fact, legal);
        if (const DataNode* node = fact.find("to_move")) {
            const std::string name = of_file([&] { return file_.text(*node, "to_move"); });
            const std::string is = outcome  ? "nobody is next: play is over"
                                   : chance ? "chance is next"
                                            : game_.player_name(game_.player_to_move(position)) + " is next";
            if (is != name + " is next") fault(*node, is);
        }
        hold_after(fact, position, moves);
        hold_sequences(fact, position);
    }

    /// The position that a fact is of; false where there is nothing more to hold.
    bool stand(const DataNode& fact, AnyPosition& position) {
        position = game_.initial_position();
        const DataNode* refused = fact.find("refused");
        const bool is_refused = refused != nullptr && of_file([&] { return file_.boolean(*refused, "refused"); });
        const DataNode* node = fact.find("position");
        if (refused != nullptr && node == nullptr)
            of_file([&] { file_.fail(*refused, "there is no position that could be refused", "position = \"...\""); });
        if (node != nullptr) {
            const std::string text = of_file([&] { return file_.text(*node, "position"); });
            try {
                position = game_.read_position(text);
            } catch (const InputError& error) {
                if (!is_refused) fault(*node, std::string("the position is refused: ") + error.what());
                return false;
            }
            if (is_refused) fault(*node, "the text is read to the position '" + game_.position_text(position) + "'");
            return !is_refused;
        }
        if (const DataNode* way = fact.find("moves"))
            for (const std::string& text : texts(*way, "moves")) {
                try {
                    game_.play(position, move_from_text(game_, position, text));
                } catch (const InputError& error) {
                    fault(*way, "the moves cannot be played: " + std::string(error.what()));
                    return false;
                }
            }
        return true;
    }

    void hold_end(const DataNode& fact, const std::optional<Outcome>& outcome) {
        if (const DataNode* node = fact.find("over"))
            if (of_file([&] { return file_.boolean(*node, "over"); }) != outcome.has_value())
                fault(*node, outcome ? "play is over" : "play goes on");
        const DataNode* node = fact.find("payoffs");
        if (node == nullptr) return;
        const auto players = static_cast<std::size_t>(players_of(game_));
        std::vector<Payoff> wanted;
        of_file([&] {
            if (node->kind != DataNode::Kind::List || node->items.size() != players)
                file_.fail(*node, "payoffs are not a list of " + std::to_string(players), "one for each player");
            for (const DataNode& item : node->items)
                wanted.push_back(static_cast<Payoff>(file_.integer(item, "a payoff", -largest_payoff, largest_payoff)));
        });
        if (!outcome) return fault(*node, "play goes on");
        std::string is;
        bool same = true;
        for (std::size_t i = 0; i < players; ++i) {
            const Payoff payoff = outcome->payoff(static_cast<Player>(i));
            is += (i > 0 ? ", " : "") + std::to_string(payoff);
            same = same && payoff == wanted[i];
        }
        if (!same) fault(*node, "the payoffs are " + is);
    }

    static std::string list_text(const std::vector<std::string>& texts) {
        constexpr std::size_t enough = 12;
        std::string text = texts.empty() ? "none" : "";
        for (std::size_t i = 0; i < std::min(texts.size(), enough); ++i) text += (i > 0 ? ", " : "") + texts[i];
        return texts.size() > enough ? text + " and " + std::to_string(texts.size() - enough) + " more" : text;
    }

    void hold_moves(const DataNode& fact, const std::vector<std::string>& legal) {
        const auto is_legal = [&](const std::string& text) {
            return std::find(legal.begin(), legal.end(), text) != legal.end();
        };
        const auto hold = [&](const char* key, bool wanted) {
            const DataNode* node = fact.find(key);
            if (node == nullptr) return;
            std::vector<std::string> wrong;
            for (const std::string& text : texts(*node, key))
                if (is_legal(text) != wanted) wrong.push_back(text);
            if (!wrong.empty())
                fault(*node, std::string(wanted ? "not legal: " : "legal: ") + list_text(wrong) + " (legal are " +
                                 list_text(legal) + ")");
        };
        hold("legal", true);
        hold("not_legal", false);
        if (const DataNode* node = fact.find("only")) {
            hold("only", true);
            std::vector<std::string> others;
            const std::vector<std::string> wanted = texts(*node, "only");
            for (const std::string& text : legal)
                if (std::find(wanted.begin(), wanted.end(), text) == wanted.end()) others.push_back(text);
            if (!others.empty()) fault(*node, "legal besides: " + list_text(others));
        }
    }

    void hold_after(const DataNode& fact, const AnyPosition& position, const MoveList<AnyMove>& moves) {
        const DataNode* node = fact.find("after");
        if (node == nullptr) return;
        of_file([&] { file_.require_table(*node, "after", "{ b2 = \"the text of a position\" }"); });
        for (const auto& entry : node->entries) {
            const std::string wanted = of_file([&] { return file_.text(entry.value, entry.key); });
            bool found = false;
            for (const AnyMove& move : moves) {
                if (game_.move_text(position, move) != entry.key) continue;
                found = true;
                AnyPosition after = position;
                game_.play(after, move);
                if (const std::string is = game_.position_text(after); is != wanted)
                    fault(entry.value, entry.key + " leads to '" + is + "'");
            }
            if (!found) fault(entry.value, entry.key + " is not legal");
        }
    }

    void hold_sequences(const DataNode& fact, const AnyPosition& position) {
        const DataNode* node = fact.find("sequences");
        if (node == nullptr) return;
        std::vector<std::string> wanted;
        of_file([&] {
            if (node->kind != DataNode::Kind::List || node->items.empty() || node->items.size() > 12)
                file_.fail(*node, "sequences are no list of 1 to 12 numbers", "[9, 72, 504]");
            for (const DataNode& item : node->items)
                wanted.push_back(std::to_string(file_.integer(item, "sequences", 0, INT64_MAX)));
        });
        const auto counts = count_sequences(game_, position, static_cast<int>(wanted.size()));
        for (std::size_t i = 0; i < wanted.size(); ++i)
            if (const std::string is = counts[i].sequences.text(); is != wanted[i])
                return fault(node->items[i], "there are " + is + " sequences of " + std::to_string(i + 1));
    }

    const AnyGame& game_;
    const DataFile& file_;
    std::string about_;
    FactsReport report_;
};

}  // namespace

std::string FactsReport::text() const {
    if (sound()) return (facts == 1 ? "The one fact holds" : "All " + std::to_string(facts) + " facts hold") + ".\n";
    std::string text = std::to_string(faults.size()) + " of " + std::to_string(facts) + " facts do not hold.\n";
    for (const FactFault& fault : faults) text += "  " + fault.at + ": " + fault.about + "\n    " + fault.what + "\n";
    return text;
}

FactsReport check_facts(const AnyGame& game, std::string_view text, std::string_view source) {
    if (!offers(game, Ability::Text))
        throw InputError("game", "it has no texts, in which facts are written", "position_text() and move_text()");
    return FactsReader(game, DataFile(text, source, 2'000'000)).report();
}

}  // namespace arvek
