#pragma once
// TextReader: reading the text of a position letter by letter, where every complaint names its column.
//
//     Position read_position(std::string_view text) const {
//         arvek::TextReader in(text, "three stores with , between and the player to move, such as '4,4,0 T'");
//         Position position;
//         for (std::size_t i = 0; i < 3; ++i) {
//             if (i > 0) in.take(',', "a store");
//             position.stores[i] = in.number("number of buckets", 0, 20);
//         }
//         in.take(' ', "the stores");
//         position.to_move = in.one_of("TA", "player") == 0 ? arvek::Player::First : arvek::Player::Second;
//         in.finish("the player to move");
//         return position;
//     }
//
// What does not fit throws InputError. The text must live as long as the reader.

#include <cstddef>
#include <string>
#include <string_view>

#include "arvek/game/input_error.hpp"

namespace arvek {

/// Reads a text letter by letter.
class TextReader {
   public:
    /// `whole`: what the text is like from end to end, for complaints. An empty text is the first.
    TextReader(std::string_view text, std::string whole);

    /// The next letter; '\0' at the end.
    char next() const { return at_ < text_.size() ? text_[at_] : '\0'; }
    bool at_end() const { return at_ == text_.size(); }  ///< whether all was read
    /// What is left to read.
    std::string_view rest() const { return text_.substr(at_); }

    /// The next letter, which is then read. Requires: not at the end.
    char pass() { return text_[at_++]; }
    /// Reads the letter if it is the next; whether it was.
    bool pass_if(char letter);
    /// Reads the letter, which must be the next; `after` says what it follows.
    void take(char letter, const std::string& after);
    /// Reads one of the letters; its place among them. `what` says what they stand for.
    std::size_t one_of(std::string_view letters, const std::string& what);
    /// Reads a number without sign and without zeros before it. Requires: 0 <= least <= most.
    int number(const std::string& what, int least, int most);
    /// The end of the text must be here.
    void finish(const std::string& after) const;

    /// What complaints call the place: "'x'" or "the end of the text".
    std::string here() const;
    const std::string& whole() const { return whole_; }  ///< what is read
    /// Complains of the next letter, or of the text as such.
    [[noreturn]] void fail(const std::string& problem, const std::string& expected) const;
    /// Throws InputError with the text and no column.
    [[noreturn]] void fail_as_such(const std::string& problem, const std::string& expected) const;

   private:
    std::string_view text_;
    std::string whole_;
    std::size_t at_ = 0;
};

}  // namespace arvek
