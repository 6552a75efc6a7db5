#include "arvek/game/text_reader.hpp"

#include <utility>

namespace arvek {

namespace {

bool is_digit(char letter) { return letter >= '0' && letter <= '9'; }

}  // namespace

TextReader::TextReader(std::string_view text, std::string whole) : text_(text), whole_(std::move(whole)) {
    if (text_.empty()) fail("the text is empty", whole_);
}

bool TextReader::pass_if(char letter) {
    if (at_end() || next() != letter) return false;
    ++at_;
    return true;
}

void TextReader::take(char letter, const std::string& after) {
    if (!pass_if(letter)) fail(here() + " after " + after, "'" + std::string(1, letter) + "'; " + whole_);
}

std::size_t TextReader::one_of(std::string_view letters, const std::string& what) {
    const std::size_t place = at_end() ? std::string_view::npos : letters.find(next());
    if (place == std::string_view::npos) {
        std::vector<std::string> known;
        for (const char letter : letters) known.emplace_back(1, letter);
        fail(here() + " is no " + what, any_of_text(known));
    }
    ++at_;
    return place;
}

int TextReader::number(const std::string& what, int least, int most) {
    std::size_t end = at_;
    long long value = 0;
    for (; end < text_.size() && is_digit(text_[end]); ++end)
        if (value <= most) value = 10 * value + (text_[end] - '0');
    const bool zeros = end > at_ + 1 && text_[at_] == '0';
    const std::string range = std::to_string(least) + " to " + std::to_string(most);
    if (end == at_) fail(here() + " does not begin a " + what, range);
    if (zeros || value < least || value > most)
        fail("'" + std::string(text_.substr(at_, end - at_)) + "' is no " + what + (zeros ? "" : " in range"),
             range + (zeros ? ", without zeros before it" : ""));
    at_ = end;
    return static_cast<int>(value);
}

void TextReader::finish(const std::string& after) const {
    if (!at_end()) fail(here() + " after " + after, "the end of the text");
}

std::string TextReader::here() const {
    if (at_end()) return "the end of the text";
    const auto byte = static_cast<unsigned char>(next());
    return byte < 0x20 || byte >= 0x7f ? "a character that cannot be shown" : "'" + std::string(1, next()) + "'";
}

void TextReader::fail(const std::string& problem, const std::string& expected) const {
    throw InputError("position", at_ + 1, problem, expected);
}

void TextReader::fail_as_such(const std::string& problem, const std::string& expected) const {
    throw InputError("position", 1, problem, expected);
}

}  // namespace arvek
