#include "chess/pgn.hpp"

#include <algorithm>
#include <array>
#include <cctype>

#include <arvek/game/input_error.hpp>
#include <arvek/game/text.hpp>

namespace waterway {

using arvek::InputError;
using arvek::Player;

namespace {

constexpr std::array<std::pair<std::string_view, std::string_view>, 7> seven_tags{{{"Event", "?"},
                                                                                   {"Site", "?"},
                                                                                   {"Date", "????.??.??"},
                                                                                   {"Round", "?"},
                                                                                   {"White", "?"},
                                                                                   {"Black", "?"},
                                                                                   {"Result", "*"}}};
constexpr std::array<std::string_view, 4> pgn_results{"1-0", "0-1", "1/2-1/2", "*"};

class PgnReader {
   public:
    PgnReader(const Chess& chess, std::string_view text, std::string_view source)
        : chess_(chess), text_(text), source_(source) {
        constexpr std::string_view mark = "\xef\xbb\xbf";  // of UTF-8
        if (text_.starts_with(mark)) at_ = begin_ = mark.size();
    }

    std::vector<PgnGame> games() {
        std::vector<PgnGame> all;
        for (skip_space(nullptr); at_ < text_.size(); skip_space(nullptr)) all.push_back(game());
        return all;
    }

   private:
    [[noreturn]] void fail(std::size_t at, const std::string& problem, const std::string& expected) const {
        const std::size_t line = 1 + static_cast<std::size_t>(std::count(
                                         text_.begin(), text_.begin() + static_cast<std::ptrdiff_t>(at), '\n'));
        const std::size_t begin = at == 0 ? std::string_view::npos : text_.rfind('\n', at - 1);
        const std::size_t column = at - (begin == std::string_view::npos ? 0 : begin + 1) + 1;
        throw InputError(std::string(source_) + ", line " + std::to_string(line), column, problem, expected);
    }

    bool starts_line() const { return at_ == begin_ || text_[at_ - 1] == '\n'; }

    /// Space and what does not count; comments go to the game, if there is one.
    void skip_space(PgnGame* game) {
        while (at_ < text_.size()) {
            const char letter = text_[at_];
            if (letter == '%' && starts_line()) {
                skip_line();
            } else if (letter == ';') {
                const std::size_t begin = at_ + 1;
                skip_line();
                keep_comment(game, text_.substr(begin, at_ - begin));
            } else if (letter == '{') {
                const std::size_t begin = at_, end = text_.find('}', at_);
                if (end == std::string_view::npos) fail(begin, "the comment has no end", "}");
                keep_comment(game, text_.substr(begin + 1, end - begin - 1));
                at_ = end + 1;
            } else if (std::isspace(static_cast<unsigned char>(letter)) != 0) {
                ++at_;
            } else {
                return;
            }
        }
    }
    void skip_line() {
        const std::size_t end = text_.find('\n', at_);
        at_ = end == std::string_view::npos ? text_.size() : end;
    }
    static void keep_comment(PgnGame* game, std::string_view text) {
        if (game == nullptr) return;
        std::string kept;  // on one line
        for (const char letter : text) {
            const bool space = std::isspace(static_cast<unsigned char>(letter)) != 0;
            if (space && (kept.empty() || kept.back() == ' ')) continue;
            kept += space ? ' ' : letter;
        }
        while (!kept.empty() && kept.back() == ' ') kept.pop_back();
        if (!kept.empty()) game->comments.emplace_back(game->moves.size(), std::move(kept));
    }

    PgnGame game() {
        PgnGame game;
        while (at_ < text_.size() && text_[at_] == '[') {
            tag(game);
            skip_space(&game);
        }
        game.start = chess_.initial_position();
        if (const auto fen =
                std::find_if(game.tags.begin(), game.tags.end(), [](const auto& each) { return each.first == "FEN"; });
            fen != game.tags.end()) {
            try {
                game.start = chess_.read_position(fen->second);
            } catch (const InputError& error) {
                fail(fen_at_, error.what(), "");
            }
        }
        moves(game);
        return game;
    }

    void tag(PgnGame& game) {
        const std::size_t begin = at_++;
        skip_space(nullptr);
        const std::size_t name_at = at_;
        while (at_ < text_.size() && (std::isalnum(static_cast<unsigned char>(text_[at_])) != 0 || text_[at_] == '_'))
            ++at_;
        const std::string name(text_.substr(name_at, at_ - name_at));
        if (name.empty()) fail(at_, "a tag has no name", "[Event \"Wharf cup\"]");
        skip_space(nullptr);
        if (at_ >= text_.size() || text_[at_] != '"')
            fail(at_, "the tag " + name + " has no value", "a text in quotes");
        const std::size_t value_at = at_++;
        std::string value;
        for (;; ++at_) {
            if (at_ >= text_.size() || text_[at_] == '\n')
                fail(value_at, "the value of the tag " + name + " has no end", "\"");
            if (text_[at_] == '"') break;
            if (text_[at_] == '\\' && at_ + 1 < text_.size() && (text_[at_ + 1] == '"' || text_[at_ + 1] == '\\'))
                ++at_;
            value += text_[at_];
        }
        ++at_;
        skip_space(nullptr);
        if (at_ >= text_.size() || text_[at_] != ']') fail(begin, "the tag " + name + " has no end", "]");
        ++at_;
        if (name == "FEN") fen_at_ = value_at;
        game.tags.emplace_back(name, std::move(value));
    }

    /// What stands in brackets, in brackets within those too, and in comments that have brackets.
    void skip_variation() {
        const std::size_t begin = at_;
        int depth = 0;
        while (at_ < text_.size()) {
            const char letter = text_[at_];
            if (letter == '{' || letter == ';' || (letter == '%' && starts_line())) {
                skip_space(nullptr);
                continue;
            }
            ++at_;
            if (letter == '(') ++depth;
            if (letter == ')' && --depth == 0) return;
        }
        fail(begin, "the variation has no end", ")");
    }

    void moves(PgnGame& game) {
        Chess::Position position = game.start;
        for (;;) {
            skip_space(&game);
            if (at_ >= text_.size() || (text_[at_] == '[' && starts_line())) {
                // Some leave the result out of the moves.
                if (const auto result = game.tag("Result");
                    std::find(pgn_results.begin(), pgn_results.end(), result) != pgn_results.end())
                    game.result = result;
                return;
            }
            const char letter = text_[at_];
            if (letter == '(') {
                skip_variation();
                continue;
            }
            if (letter == '$') {
                do ++at_;
                while (at_ < text_.size() && std::isdigit(static_cast<unsigned char>(text_[at_])) != 0);
                continue;
            }
            const std::size_t begin = at_;
            while (at_ < text_.size() && std::isspace(static_cast<unsigned char>(text_[at_])) == 0 &&
                   std::string_view("{}()[];$").find(text_[at_]) == std::string_view::npos)
                ++at_;
            std::string_view word = text_.substr(begin, at_ - begin);
            if (word.empty()) fail(begin, std::string("'") + letter + "' has no place here", "a move, or a result");
            if (std::find(pgn_results.begin(), pgn_results.end(), word) != pgn_results.end()) {
                game.result = word;
                return;
            }
            // The number of the move, which may stand right before it.
            std::size_t digits = 0;
            while (digits < word.size() && std::isdigit(static_cast<unsigned char>(word[digits])) != 0) ++digits;
            if (digits > 0 && (digits == word.size() || word[digits] == '.')) {
                word.remove_prefix(digits);
                while (word.starts_with('.')) word.remove_prefix(1);
            } else if (word.starts_with('.')) {
                while (word.starts_with('.')) word.remove_prefix(1);
            }
            if (word.empty() || word.find_first_not_of("!?") == std::string_view::npos) continue;
            if (chess_.outcome(position))
                fail(begin, "the game is over before '" + std::string(word) + "'", "a result");
            try {
                const Chess::Move move = arvek::move_from_text(chess_, position, word);
                game.moves.push_back(move);
                chess_.play(position, move);
            } catch (const InputError& error) {
                fail(begin, error.what(), "");
            }
        }
    }

    const Chess& chess_;
    std::string_view text_, source_;
    std::size_t at_ = 0, begin_ = 0, fen_at_ = 0;
};

std::string quoted(std::string_view value) {
    std::string text = "\"";
    for (const char letter : value) {
        if (letter == '"' || letter == '\\') text += '\\';
        text += static_cast<unsigned char>(letter) < 0x20 ? ' ' : letter;
    }
    return text + '"';
}

}  // namespace

std::string_view PgnGame::tag(std::string_view name) const {
    for (const auto& [key, value] : tags)
        if (key == name) return value;
    return {};
}

std::vector<PgnGame> read_pgn(const Chess& chess, std::string_view text, std::string_view source) {
    return PgnReader(chess, text, source).games();
}

std::string pgn_text(const Chess& chess, const PgnGame& game) {
    std::string text;
    const auto put_tag = [&](std::string_view name, std::string_view value) {
        text += "[" + std::string(name) + " " + quoted(value) + "]\n";
    };
    for (const auto& [name, otherwise] : seven_tags) {
        const auto given = game.tag(name);
        put_tag(name, name == "Result" ? std::string_view(game.result) : given.empty() ? otherwise : given);
    }
    for (const auto& [name, value] : game.tags) {
        const bool known = name == "FEN" || name == "SetUp" ||
                           std::any_of(seven_tags.begin(), seven_tags.end(),
                                       [&, &tag = name](const auto& each) { return each.first == tag; });
        if (!known) put_tag(name, value);
    }
    if (!(game.start == chess.initial_position())) {
        put_tag("SetUp", "1");
        put_tag("FEN", chess.position_text(game.start));
    }
    text += '\n';
    std::string line;
    const auto put = [&](const std::string& word) {
        constexpr std::size_t longest = 79;
        if (!line.empty() && line.size() + 1 + word.size() > longest) {
            text += line + '\n';
            line.clear();
        }
        line += (line.empty() ? "" : " ") + word;
    };
    bool numbered = false;
    const auto put_comments = [&](std::size_t after) {
        for (const auto& [place, comment] : game.comments) {
            if (place != after) continue;
            std::string word = "{";
            for (const char letter : comment) {
                if (letter == ' ') {
                    put(word);
                    word.clear();
                } else {
                    word += letter == '}' ? ')' : letter;  // a comment cannot hold its own end
                }
            }
            put(word + "}");
            numbered = false;
        }
    };
    Chess::Position position = game.start;
    put_comments(0);
    for (std::size_t i = 0; i < game.moves.size(); ++i) {
        const bool white = position.to_move == Player::First;
        if (white || !numbered) put(std::to_string(position.number) + (white ? "." : "..."));
        numbered = true;
        put(chess.move_text(position, game.moves[i]));
        chess.play(position, game.moves[i]);
        put_comments(i + 1);
    }
    put(game.result);
    return text + line + "\n\n";
}

}  // namespace waterway
