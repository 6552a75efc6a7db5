#include "html_report.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace arvek::tool {

namespace {

std::string as_html(const std::string& text) {
    std::string safe;
    for (const char each : text) {
        const auto code = static_cast<unsigned char>(each);
        if (each == '&')
            safe += "&amp;";
        else if (each == '<')
            safe += "&lt;";
        else if (each == '>')
            safe += "&gt;";
        else if (each == '"')
            safe += "&quot;";
        else if (code >= 0x20 || each == '\n' || each == '\t')
            safe += each;
    }
    return safe;
}

/// About five round numbers from low to high.
std::vector<double> marks_between(double low, double high) {
    const double rough = (high - low) / 5.0, magnitude = std::pow(10.0, std::floor(std::log10(rough)));
    double step = 10.0 * magnitude;
    for (const double factor : {5.0, 2.0, 1.0})
        if (factor * magnitude >= rough) step = factor * magnitude;
    std::vector<double> marks;
    for (double mark = std::ceil(low / step) * step; mark <= high + step * 1e-6; mark += step) marks.push_back(mark);
    return marks;
}
std::string mark_text(double mark, bool is_share) {
    return is_share ? fmt::format("{:.0f} %", 100 * mark) : fmt::format("{:g}", std::abs(mark) < 1e-9 ? 0.0 : mark);
}

constexpr const char* style = R"(
:root { color-scheme: light dark; --ink: #1d2529; --quiet: #55616a; --line: #cfd3d2; --sheet: #fff; --main: #0f5f5c; --band: #e2edeb; --second: #9a4a00; --third: #6f2c91; --fourth: #2b4a8b; }
@media (prefers-color-scheme: dark) { :root { --ink: #e8ecec; --quiet: #a9b5ba; --line: #3a454b; --sheet: #171c1f; --main: #6fd0c6; --band: #22393a; --second: #f0a13c; --third: #cf95ee; --fourth: #8fb2ff; } }
body { font: 15px/1.45 system-ui, "DejaVu Sans", sans-serif; color: var(--ink); background: var(--sheet); max-width: 68em; margin: 1.5em auto; padding: 0 1em; }
h1 { font-size: 1.4em; } h2 { font-size: 1.1em; margin-top: 1.6em; }
table { border-collapse: collapse; margin: .6em 0; } caption { text-align: left; font-weight: 600; padding: .3em 0; }
th, td { text-align: left; padding: .2em .7em; border-bottom: 1px solid var(--line); } .number { text-align: right; font-variant-numeric: tabular-nums; } td.number { white-space: nowrap; }
th button { font: inherit; font-weight: 600; color: var(--quiet); background: none; border: 0; padding: 0; cursor: pointer; }
pre { overflow-x: auto; font: 13px/1.4 "DejaVu Sans Mono", monospace; } svg { max-width: 100%; height: auto; } figure { margin: 1em 0; } figcaption { font-weight: 600; }
svg text { fill: var(--ink); font: 13px system-ui, "DejaVu Sans", sans-serif; } .axis { stroke: var(--line); } .quiet { fill: var(--quiet) !important; }
.band { fill: var(--band); } .bar { stroke: var(--main); stroke-width: 3; } .dot { fill: var(--main); } .curve { fill: none; stroke-width: 2; }
.c0 { stroke: var(--main); } .c1 { stroke: var(--second); stroke-dasharray: 7 3; } .c2 { stroke: var(--third); stroke-dasharray: 2 3; } .c3 { stroke: var(--fourth); stroke-dasharray: 9 3 2 3; }
)";

/// Sorts a table by the column whose heading is pressed, and back.
constexpr const char* script = R"(
for (const button of document.querySelectorAll("th button")) button.addEventListener("click", () => {
  const head = button.closest("th"), table = head.closest("table"), body = table.tBodies[0], at = head.cellIndex;
  const down = head.getAttribute("aria-sort") === "ascending";
  for (const each of head.parentElement.cells) each.removeAttribute("aria-sort");
  head.setAttribute("aria-sort", down ? "descending" : "ascending");
  const key = (row) => { const text = row.cells[at].textContent; return head.className === "number" ? parseFloat(text.replace("−", "-").replace("+", "")) : text; };
  const rows = [...body.rows].sort((a, b) => { const [x, y] = [key(a), key(b)]; return (x > y ? 1 : x < y ? -1 : Number.isNaN(x) - Number.isNaN(y)) * (down ? -1 : 1); });
  body.append(...rows);
});
)";

}  // namespace

HtmlReport::HtmlReport(std::string title) : title_(std::move(title)) {}

void HtmlReport::heading(const std::string& text) { body_ += "<h2>" + as_html(text) + "</h2>\n"; }
void HtmlReport::text(const std::string& paragraph) { body_ += "<p>" + as_html(paragraph) + "</p>\n"; }
void HtmlReport::lines(const std::string& text) { body_ += "<pre>" + as_html(text) + "</pre>\n"; }

void HtmlReport::table(const std::string& caption, const std::vector<ReportColumn>& columns,
                       const std::vector<std::vector<std::string>>& rows) {
    body_ += "<table><caption>" + as_html(caption) + "</caption><thead><tr>";
    for (const ReportColumn& column : columns)
        body_ += fmt::format("<th scope=\"col\"{}><button type=\"button\">{}</button></th>",
                             column.is_number ? " class=\"number\"" : "", as_html(column.name));
    body_ += "</tr></thead><tbody>\n";
    for (const auto& row : rows) {
        body_ += "<tr>";
        for (std::size_t i = 0; i < row.size(); ++i)
            body_ += fmt::format("<td{}>{}</td>", i < columns.size() && columns[i].is_number ? " class=\"number\"" : "",
                                 as_html(row[i]));
        body_ += "</tr>\n";
    }
    body_ += "</tbody></table>\n";
}

void HtmlReport::intervals(const std::string& caption, const std::vector<ReportInterval>& values,
                           const ReportScale& scale) {
    constexpr int width = 760, left = 190, right = 120, step = 26, top = 6;
    const int bottom = top + step * static_cast<int>(values.size());
    const double reach = std::max(1e-9, scale.high - scale.low);
    const auto x = [&](double value) {
        return left + (width - left - right) * (std::clamp(value, scale.low, scale.high) - scale.low) / reach;
    };
    body_ += fmt::format(
        "<figure><figcaption>{0}</figcaption><svg role=\"img\" aria-label=\"{0}\" viewBox=\"0 0 {1} {2}\" "
        "width=\"{1}\" height=\"{2}\">\n",
        as_html(caption), width, bottom + 24);
    if (scale.band_low && scale.band_high)
        body_ += fmt::format("<rect class=\"band\" x=\"{:.1f}\" y=\"{}\" width=\"{:.1f}\" height=\"{}\"/>\n",
                             x(*scale.band_low), top, x(*scale.band_high) - x(*scale.band_low), bottom - top);
    for (const double mark : marks_between(scale.low, scale.high))
        body_ += fmt::format(
            "<line class=\"axis\" x1=\"{0:.1f}\" x2=\"{0:.1f}\" y1=\"{1}\" y2=\"{2}\"/><text class=\"quiet\" "
            "x=\"{0:.1f}\" y=\"{3}\" text-anchor=\"middle\">{4}</text>\n",
            x(mark), top, bottom, bottom + 17, mark_text(mark, scale.is_share));
    double y = top + step / 2.0;
    for (const ReportInterval& each : values) {
        body_ += fmt::format(
            "<text x=\"{}\" y=\"{:.1f}\" text-anchor=\"end\">{}</text><line class=\"bar\" x1=\"{:.1f}\" "
            "x2=\"{:.1f}\" y1=\"{:.1f}\" y2=\"{:.1f}\"/><circle class=\"dot\" cx=\"{:.1f}\" cy=\"{:.1f}\" "
            "r=\"5\"/><text class=\"quiet\" x=\"{}\" y=\"{:.1f}\">{}</text>\n",
            left - 10, y + 4, as_html(each.name), x(each.low), x(each.high), y, y, x(each.value), y, width - right + 10,
            y + 4, as_html(each.shown));
        y += step;
    }
    body_ += "</svg></figure>\n";
}

void HtmlReport::curves(const std::string& caption,
                        const std::vector<std::pair<std::string, std::vector<double>>>& series) {
    constexpr int width = 760, height = 260, left = 60, right = 170, top = 10, bottom = 230;
    double low = 1e300, high = -1e300;
    std::size_t steps = 1;
    for (const auto& [name, values] : series) {
        for (const double value : values) {
            low = std::min(low, value);
            high = std::max(high, value);
        }
        steps = std::max(steps, values.size());
    }
    if (low > high) return;
    if (high - low < 1e-9) {
        low -= 1;
        high += 1;
    }
    const auto x = [&](std::size_t step) {
        return left + (width - left - right) * static_cast<double>(step) /
                          static_cast<double>(std::max<std::size_t>(1, steps - 1));
    };
    const auto y = [&](double value) { return bottom - (bottom - top) * (value - low) / (high - low); };
    body_ += fmt::format(
        "<figure><figcaption>{0}</figcaption><svg role=\"img\" aria-label=\"{0}\" viewBox=\"0 0 {1} {2}\" "
        "width=\"{1}\" height=\"{2}\">\n",
        as_html(caption), width, height);
    for (const double mark : marks_between(low, high))
        body_ += fmt::format(
            "<line class=\"axis\" x1=\"{0}\" x2=\"{1}\" y1=\"{2:.1f}\" y2=\"{2:.1f}\"/><text class=\"quiet\" "
            "x=\"{3}\" y=\"{4:.1f}\" text-anchor=\"end\">{5}</text>\n",
            left, width - right, y(mark), left - 8, y(mark) + 4, mark_text(mark, false));
    std::size_t colour = 0;
    for (const auto& [name, values] : series) {
        std::string points;
        for (std::size_t i = 0; i < values.size(); ++i) points += fmt::format("{:.1f},{:.1f} ", x(i), y(values[i]));
        const double at = 16.0 + 20.0 * static_cast<double>(colour);
        body_ += fmt::format(
            "<polyline class=\"curve c{0}\" points=\"{1}\"/><line class=\"curve c{0}\" x1=\"{2}\" x2=\"{3}\" "
            "y1=\"{4:.1f}\" y2=\"{4:.1f}\"/><text x=\"{5}\" y=\"{6:.1f}\">{7}</text>\n",
            colour % 4, points, width - right + 12, width - right + 36, at, width - right + 42, at + 4, as_html(name));
        ++colour;
    }
    body_ += fmt::format("<text class=\"quiet\" x=\"{}\" y=\"{}\" text-anchor=\"end\">{} steps</text></svg></figure>\n",
                         width - right, height - 8, steps - 1);
}

std::string HtmlReport::page() const {
    return "<!doctype html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<meta name=\"viewport\" "
           "content=\"width=device-width, initial-scale=1\">\n<meta http-equiv=\"Content-Security-Policy\" "
           "content=\"default-src 'none'; style-src 'unsafe-inline'; script-src 'unsafe-inline'\">\n<title>" +
           as_html(title_) + "</title>\n<style>" + style + "</style>\n</head>\n<body>\n<main>\n<h1>" + as_html(title_) +
           "</h1>\n" + body_ + "</main>\n<script>" + script + "</script>\n</body>\n</html>\n";
}

}  // namespace arvek::tool
