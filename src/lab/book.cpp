#include "arvek/lab/book.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <queue>
#include <unordered_map>

#include "arvek/game/input_error.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/search/scale_of.hpp"
#include "position_key.hpp"

namespace arvek {

double chance_of_score(Score score, double scores_per_point, double units, Payoff most_payoff) {
    if (score.is_proven()) return score.payoff() > 0 ? 1.0 : score.payoff() < 0 ? 0.0 : 0.5;
    const auto number = static_cast<double>(score.number());
    if (scores_per_point > 0) return std::clamp(0.5 + 0.5 * number / scores_per_point / most_payoff, 0.0, 1.0);
    return 1.0 / (1.0 + std::exp2(-number / units));
}

std::uint64_t PlayedReplies::key_of(const AnyPosition& position) const {
    if (offers(game_, Ability::Equivalence)) return game_.equivalence_hash(position);
    return detail::position_key(game_, position);
}

std::uint64_t PlayedReplies::key_after(AnyPosition position, const AnyMove& move) const {
    game_.play(position, move);
    return key_of(position);
}

void PlayedReplies::add(const AnyPosition& at, const AnyMove& move, double points, int games) {
    Reply& reply = replies_[key_of(at)][key_after(at, move)];
    reply.games += games;
    reply.points += points;
}

std::vector<std::pair<AnyMove, double>> PlayedReplies::at(const AnyPosition& position, int least_games) const {
    std::vector<std::pair<AnyMove, double>> found;
    const auto known = replies_.find(key_of(position));
    if (known == replies_.end()) return found;
    double most = 0;
    for (const AnyMove& move : legal_moves(game_, position)) {
        const auto reply = known->second.find(key_after(position, move));
        if (reply == known->second.end() || reply->second.games < least_games) continue;
        // What was played often and did well; what lost is not quite forgotten.
        constexpr double of_a_loss = 0.25;
        found.emplace_back(move, reply->second.points + of_a_loss * reply->second.games);
        most = std::max(most, found.back().second);
    }
    for (auto& [move, weight] : found) weight /= most;
    return found;
}

std::size_t Book::openings() const {
    // Each position but the first goes on from one reply; the others are where the book ends.
    std::size_t replies = 0;
    for (const BookPosition& position : positions) replies += position.replies.size();
    return positions.empty() ? 0 : replies - (positions.size() - 1);
}

namespace {

void check_options(const AnyGame& game, const AnyPosition& from, const BookOptions& options) {
    const auto in_range = [](const char* what, double value, double low, double high) {
        if (!(value >= low && value <= high))
            throw InputError(what, std::to_string(value) + " is out of range",
                             std::to_string(low) + " to " + std::to_string(high));
    };
    in_range("plies", options.plies, 1, 60);
    in_range("width", options.width, 1, most_book_width);
    in_range("most lost", options.most_lost, 0, 1);
    in_range("games of a reply", options.least_games, 1, 1'000'000);
    in_range("positions", static_cast<double>(options.most_positions), 1, 100'000);
    if (players_of(game) != 2 || has_chance(game) || has_views(game))
        throw InputError("book", "the game is not one for two in which all is in sight and nothing is left to chance",
                         "another game");
    if (game.outcome(from))
        throw InputError("book", "the game is over, so nothing begins there", "a position where play goes on");
}

class BookBuilder {
   public:
    BookBuilder(const AnyGame& game, const BookJudge& judge, const BookOptions& options)
        : game_(game),
          judge_(judge),
          options_(options),
          units_(options.units_per_doubling ? *options.units_per_doubling : units_per_doubling_of(game)),
          most_(most_payoff_of(game)) {}

    Book build(const AnyPosition& from, const std::function<void(std::size_t)>& seen) {
        struct Waiting {
            double likely;
            std::size_t order;
            BookPosition position;
            bool operator<(const Waiting& other) const {
                return likely != other.likely ? likely < other.likely : order > other.order;
            }
        };
        std::priority_queue<Waiting> waiting;
        std::size_t order = 0;
        if (options_.roots.empty()) waiting.push({1.0, order++, {{}, from, {}, false}});
        for (const BookRoot& root : options_.roots)
            waiting.push({1.0, order++, {root.line, root.position, {}, root.line.empty() && !(root.position == from)}});
        while (!waiting.empty()) {
            if (options_.stop.stop_requested() || book_.positions.size() == options_.most_positions) {
                book_.complete = false;
                break;
            }
            Waiting next = waiting.top();
            waiting.pop();
            if (is_known(next.position.position)) continue;
            next.position.replies = replies_to(next.position);
            if (next.position.replies.empty()) continue;
            double sum = 0;
            for (const BookReply& reply : next.position.replies) sum += reply.weight;
            if (static_cast<int>(next.position.line.size()) + 1 < options_.plies && !next.position.is_given)
                for (const BookReply& reply : next.position.replies) {
                    BookPosition after{next.position.line, next.position.position, {}, false};
                    after.line.push_back(reply.move);
                    game_.play(after.position, reply.move);
                    if (!game_.outcome(after.position))
                        waiting.push({next.likely * reply.weight / sum, order++, std::move(after)});
                }
            known_.emplace(detail::position_key(game_, next.position.position), book_.positions.size());
            book_.positions.push_back(std::move(next.position));
            seen(book_.positions.size());
        }
        return std::move(book_);
    }

   private:
    bool is_known(const AnyPosition& position) const {
        const auto [begin, end] = known_.equal_range(detail::position_key(game_, position));
        return std::any_of(begin, end,
                           [&](const auto& entry) { return book_.positions[entry.second].position == position; });
    }
    std::uint64_t equivalence_after(AnyPosition position, const AnyMove& move) const {
        game_.play(position, move);
        return game_.equivalence_hash(position);
    }

    /// Of a mirror image or the like: the moves that lead to images of where the known replies lead.
    const std::map<std::uint64_t, BookReply>* known_image(const AnyPosition& position) {
        if (!offers(game_, Ability::Equivalence)) return nullptr;
        const auto known = images_.find(game_.equivalence_hash(position));
        return known == images_.end() ? nullptr : &known->second;
    }

    std::vector<BookReply> replies_to(const BookPosition& at) {
        std::vector<AnyMove> moves;
        std::vector<std::pair<AnyMove, double>> played;
        if (options_.played != nullptr) {
            played = options_.played->at(at.position, options_.least_games);
            for (const auto& [move, weight] : played) moves.push_back(move);
        } else {
            const auto legal = legal_moves(game_, at.position);
            moves.assign(legal.begin(), legal.end());
        }
        if (moves.empty()) return {};
        std::vector<BookReply> replies;
        if (const auto* image = known_image(at.position)) {
            ++book_.folded;
            for (const AnyMove& move : moves)
                if (const auto known = image->find(equivalence_after(at.position, move)); known != image->end()) {
                    replies.push_back(known->second);
                    replies.back().move = move;
                }
        } else if (!judge_) {
            for (const auto& [move, weight] : played) replies.push_back({move, 0.0, weight});
            std::stable_sort(replies.begin(), replies.end(),
                             [](const auto& x, const auto& y) { return x.weight > y.weight; });
        } else {
            ++book_.searched;
            replies = searched(at, moves);
            for (BookReply& reply : replies)
                for (const auto& [move, weight] : played)
                    if (move == reply.move) reply.weight *= weight;
            if (offers(game_, Ability::Equivalence)) {
                auto& images = images_[game_.equivalence_hash(at.position)];
                for (const BookReply& reply : replies)
                    images.emplace(equivalence_after(at.position, reply.move), reply);
            }
        }
        // Of several that are images of one another one is enough to tell openings apart.
        std::stable_sort(replies.begin(), replies.end(), [](const auto& x, const auto& y) { return x.lost < y.lost; });
        if (replies.size() > static_cast<std::size_t>(options_.width))
            replies.resize(static_cast<std::size_t>(options_.width));
        return replies;
    }

    /// What is lost is so against the best of all moves, whichever are asked about.
    std::vector<BookReply> searched(const BookPosition& at, const std::vector<AnyMove>& wanted) {
        constexpr double first_look = 0.3, wider = 2.0;
        const auto legal = legal_moves(game_, at.position);
        const std::vector<AnyMove> all(legal.begin(), legal.end());
        const bool asks_of_all = wanted.size() == all.size();
        const auto is_wanted = [&](const AnyMove& move) {
            return asks_of_all || std::find(wanted.begin(), wanted.end(), move) != wanted.end();
        };
        const Decision<AnyMove> survey = judge_(at.position, all, first_look);
        if (!survey.has_scores) throw InputError("book", "the judge gives no scores", "an opponent that looks ahead");
        // Those that come close, and a few more than are wanted.
        std::vector<AnyMove> close;
        const double best = chance_of(survey, survey.ranked.front());
        for (const auto& entry : survey.ranked)
            if (close.empty() ||
                (is_wanted(entry.move) && best - chance_of(survey, entry) <= wider * options_.most_lost + 0.01 &&
                 close.size() < 2 * static_cast<std::size_t>(options_.width) + 1))
                close.push_back(entry.move);
        if (close.size() == 1) {
            if (!is_wanted(close[0])) return {};
            return {{close[0], 0.0, 1.0}};
        }
        const Decision<AnyMove> look = judge_(at.position, close, 1.0);
        std::vector<BookReply> replies;
        const double good = chance_of(look, look.ranked.front());
        for (const auto& entry : look.ranked) {
            const double lost = std::max(0.0, good - chance_of(look, entry));
            if (lost > options_.most_lost || !is_wanted(entry.move)) continue;
            replies.push_back(
                {entry.move, lost, options_.most_lost > 0 ? std::exp(-2.0 * lost / options_.most_lost) : 1.0});
        }
        return replies;
    }

    double chance_of(const Decision<AnyMove>& decision, const RankedMove<AnyMove>& entry) const {
        return chance_of_score(entry.score, decision.scores_per_point, units_, most_);
    }

    const AnyGame& game_;
    const BookJudge& judge_;
    const BookOptions& options_;
    double units_;
    Payoff most_;
    Book book_;
    std::unordered_multimap<std::uint64_t, std::size_t> known_;
    std::unordered_map<std::uint64_t, std::map<std::uint64_t, BookReply>> images_;
};

}  // namespace

Book build_book(const AnyGame& game, const AnyPosition& from, const BookJudge& judge, const BookOptions& options,
                const std::function<void(std::size_t)>& seen) {
    check_options(game, from, options);
    return BookBuilder(game, judge, options).build(from, seen);
}

}  // namespace arvek
