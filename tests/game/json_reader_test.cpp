// The one reader of JSON is no public function; what it promises to all that reads with it is held to here.
#include "../../src/game/json_reader.hpp"

#include <gtest/gtest.h>

#include <array>

#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "support/sanitized.hpp"

using arvek::JsonLimits;
using arvek::Random;
using Parsed = nlohmann::json;

namespace {

int depth_of(const Parsed& value) {
    int deepest = 0;
    if (value.is_structured())
        for (const auto& part : value) deepest = std::max(deepest, depth_of(part));
    return value.is_structured() ? deepest + 1 : 0;
}
std::size_t values_in(const Parsed& value) {
    std::size_t all = 1;
    if (value.is_structured())
        for (const auto& part : value) all += values_in(part);
    return all;
}

std::string drawn_text(Random& random) {
    static constexpr std::array<const char*, 12> parts{
        "lock", "\"", "\\", "]", "[", "{\"a\":", "\n", "\xe2\x80\xae", "\xff", "\xc3", "\x1b", "\\u00e9"};
    std::string text;
    for (std::uint64_t left = random.below(6); left > 0; --left) text += parts[random.below(parts.size())];
    return text;
}
Parsed drawn(Random& random, int depth) {
    const std::uint64_t kind = random.below(depth > 0 ? 8 : 5);
    if (kind == 0) return nullptr;
    if (kind == 1) return random.below(2) == 0;
    if (kind == 2) return static_cast<std::int64_t>(random.next());
    if (kind == 3) return random.unit() * 1e300;
    if (kind == 4) return std::to_string(random.next());
    Parsed value = kind < 7 ? Parsed::array() : Parsed::object();
    for (std::uint64_t left = random.below(5); left > 0; --left) {
        if (value.is_array())
            value.push_back(drawn(random, depth - 1));
        else
            value[std::to_string(random.below(9))] = drawn(random, depth - 1);
    }
    return value;
}
/// A text that is JSON, or nearly.
std::string drawn_json(Random& random) {
    std::string text = drawn(random, 6).dump(random.below(2) == 0 ? -1 : 1);
    for (std::uint64_t left = random.below(4); left > 0; --left) {
        const std::size_t at = random.below(text.size() + 1);
        switch (random.below(6)) {
            case 0: text.insert(at, drawn_text(random)); break;
            case 1: text.erase(at, 1 + random.below(4)); break;
            case 2: text.insert(at, std::string(random.below(80), "[{:,\"9"[random.below(6)])); break;
            case 3: text.insert(at, 1, static_cast<char>(random.below(256))); break;
            case 4: text = "[" + text + "," + text + "]"; break;
            default: text.insert(at, text.substr(random.below(text.size() + 1), random.below(40))); break;
        }
    }
    return text;
}

}  // namespace

TEST(JsonReader, TakesWhatIsJsonWithinTheLimitsAndSaysWhereOtherTextsGoWrong) {
    Random random(31);
    int taken = 0, deep = 0, many = 0, wrong = 0;
    for (int i = 0; i < (testing_support::sanitized ? 5'000 : 50'000); ++i) {
        const std::string text = drawn_json(random);
        const JsonLimits limits{
            .bytes = 4'000, .depth = 1 + static_cast<int>(random.below(8)), .values = 1 + random.below(60)};
        const bool is_json = Parsed::accept(text);
        try {
            const Parsed read = arvek::read_json<Parsed>(text, "quay.json", "", limits);
            ++taken;
            ASSERT_TRUE(is_json) << text;
            ASSERT_LE(text.size(), limits.bytes);
            ASSERT_LE(depth_of(read), limits.depth) << text;
            ASSERT_LE(values_in(read), limits.values) << text;
            ASSERT_EQ(read, Parsed::parse(text));
        } catch (const arvek::InputError& error) {
            const std::string said = error.what();
            ASSERT_EQ(said.find("quay.json, "), 0u) << said;
            ASSERT_EQ(said.find_first_of("\x1b\n"), std::string::npos) << said;
            deep += said.find("nested deeper") != std::string::npos;
            many += said.find("values") != std::string::npos;
            wrong += said.find("does not fit") != std::string::npos || said.find("too soon") != std::string::npos;
            if (!is_json || text.size() > limits.bytes) continue;
            // Of what is JSON nothing is refused but what is too much; the last of a list may count for a value more.
            Parsed read;
            try {
                read = Parsed::parse(text);
            } catch (const Parsed::out_of_range&) {
                ASSERT_NE(said.find("too large"), std::string::npos) << said;
                continue;
            }
            ASSERT_TRUE(depth_of(read) > limits.depth || 2 * values_in(read) > limits.values) << said << "\n" << text;
        }
    }
    for (const int count : {taken, deep, many, wrong}) EXPECT_GT(count, 200) << "hardly ever came to this";
}

TEST(JsonReader, SaysLineAndColumnByLetters) {
    const auto complaint = [](const std::string& text, const JsonLimits& limits = {}) -> std::string {
        try {
            (void)arvek::read_json<Parsed>(text, "quay.json", "a list", limits);
        } catch (const arvek::InputError& error) {
            return error.what();
        }
        return "";
    };
    EXPECT_NE(complaint("[1,\n \"\xc3\xa9\xc3\xa9\" x]").find("quay.json, line 2, column 7: "), std::string::npos)
        << complaint("[1,\n \"\xc3\xa9\xc3\xa9\" x]");
    EXPECT_NE(complaint("[1, }").find("quay.json, column 5: invalid JSON: what stands here"), std::string::npos);
    EXPECT_NE(complaint("[1, 2").find("ends too soon"), std::string::npos);
    EXPECT_NE(complaint("").find("ends too soon"), std::string::npos);
    EXPECT_NE(complaint("1e999").find("too large"), std::string::npos);
    EXPECT_NE(complaint("[[[1]]]", {.depth = 2}).find("column 3: invalid JSON: it is nested deeper than 2"),
              std::string::npos);
    EXPECT_NE(complaint("[1,2,3]", {.values = 3}).find("more than 3 values"), std::string::npos);
    EXPECT_EQ(complaint("[\"[[[\\\"[[[\"]", {.depth = 1}), "") << "brackets in a text";
}
