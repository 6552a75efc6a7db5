#include "arvek/picture/tree_picture.hpp"

#include <algorithm>

#include "arvek/picture/score_text.hpp"

namespace arvek {

namespace {

constexpr std::size_t spared_named = 8;

std::string counted(std::uint64_t number, const char* what) {
    return grouped(number) + " " + what + (number == 1 ? "" : "s");
}

/// Lines of text as a label in quotes, each ended as `end` says (and so aligned).
std::string quoted_lines(const std::vector<std::string>& lines, const char* end) {
    std::string result = "\"";
    for (const std::string& line : lines) {
        if (line.empty()) continue;
        for (const char letter : line) {
            if (letter == '"' || letter == '\\') result += '\\';
            result += letter;
        }
        result += end;
    }
    return result + "\"";
}

std::string fate_text(Fate fate) {
    switch (fate) {
        case Fate::End: return "game over";
        case Fate::Horizon: return "evaluated";
        case Fate::Repetition: return "repetition";
        case Fate::Table: return "from the table";
        case Fate::Searched: break;
    }
    return "";
}

std::string spared_text(const std::vector<std::string>& spared) {
    std::string text = "cutoff spared " + counted(spared.size(), "move");
    if (spared.front().empty()) return text;
    text += ":";
    for (std::size_t i = 0; i < spared.size() && i < spared_named; ++i) text += " " + spared[i];
    return spared.size() > spared_named ? text + " ..." : text;
}

std::vector<std::string> lines_of(const ReportedNode& node, double per_point, const char* unit) {
    if (node.parent < 0)
        return {node.to_move + " to move", score_text(node.score, node.kind, per_point), counted(node.positions, unit)};
    std::vector<std::string> lines{(node.on_line ? "> " : "") + node.player + " " + node.move + "   " +
                                   score_text(node.score, node.kind, per_point)};
    const std::string fate = fate_text(node.fate);
    lines.push_back(fate.empty() ? counted(node.positions, unit) : fate);
    if (node.searches > 1) lines.back() += ", searched " + std::to_string(node.searches) + " times";
    if (!node.spared.empty()) lines.push_back(spared_text(node.spared));
    return lines;
}

}  // namespace

std::string tree_as_dot(const TreeReport& report) {
    const char* const unit = report.by_playouts ? "playout" : "position";
    std::string dot =
        "digraph search {\n  rankdir=LR; nodesep=0.10; ranksep=0.45; bgcolor=\"white\";\n"
        "  size=\"13.3,8.3\"; ratio=\"compress\"; dpi=96;\n"
        "  node [fontname=\"DejaVu Sans\", fontsize=11, margin=\"0.10,0.04\", height=0.2];\n"
        "  edge [arrowsize=0.5, color=\"#8a8a8a\"];\n";
    dot += "  labelloc=t; labeljust=l; fontname=\"DejaVu Sans\"; fontsize=13;\n  label=" +
           quoted_lines(
               {report.title, "Searched to depth " + std::to_string(report.depth) +
                                  "; kept: " + (report.plies == 1 ? "1 ply" : std::to_string(report.plies) + " plies") +
                                  ". Scores as " + (report.each_for_itself ? "whoever moved" : report.to_move) +
                                  " sees them. Rounded: " + report.to_move +
                                  " to move; cornered: " + (report.each_for_itself ? "others" : "the rival") +
                                  "; double: the game is " + "over. Dashed: a cutoff. Thick, with >: the chosen line."},
               "\\l") +
           ";\n";
    std::vector<bool> has_children(report.nodes.size(), false);
    for (std::size_t i = 0; i < report.nodes.size(); ++i) {
        const ReportedNode& node = report.nodes[i];
        const bool cut = !node.spared.empty();
        dot += "  n" + std::to_string(i) +
               " [label=" + quoted_lines(lines_of(node, report.scores_per_point, unit), "\\n") +
               ", shape=box, style=\"filled" +
               (node.to_move.empty() ? ""
                : node.own           ? ",rounded"
                                     : "") +
               (cut ? ",dashed" : "") + "\", fillcolor=\"" +
               (node.to_move.empty() ? "#e6e6e6"
                : node.own           ? "#d9efec"
                                     : "#fbeccb") +
               "\", penwidth=" + (node.on_line ? "3" : "1") + (node.to_move.empty() ? ", peripheries=2" : "") + "];\n";
        if (node.parent < 0) continue;
        has_children[static_cast<std::size_t>(node.parent)] = true;
        dot += "  n" + std::to_string(node.parent) + " -> n" + std::to_string(i) +
               (node.on_line ? " [penwidth=3, color=\"#202020\"]" : "") + ";\n";
    }
    for (std::size_t i = 0; i < report.nodes.size(); ++i) {
        const ReportedNode& node = report.nodes[i];
        if (node.more == 0 || !has_children[i]) continue;
        dot += "  m" + std::to_string(i) + " [label=\"and " + grouped(static_cast<std::uint64_t>(node.more)) +
               " more, " + counted(node.more_positions, unit) + "\", shape=plaintext, fontcolor=\"#404040\"];\n  n" +
               std::to_string(i) + " -> m" + std::to_string(i) + " [style=dotted];\n";
    }
    return dot + "}\n";
}

}  // namespace arvek
