// Limits on a logarithmic scale, and the survey of number literals.
import { scaleLog } from "d3-scale";

import { Limit, Numbers } from "./data";
import { el, grouped, svg, table } from "./dom";

/** A bar for each shape: to the largest amount that was accepted. An open end means that no limit was found. */
export function limitsChart(limits: Limit[]): HTMLElement | null {
  if (limits.length === 0) return null;
  const width = 720, left = 250, right = 150, row = 24, top = 24;
  const largest = Math.max(10, ...limits.map((l) => l.largest));
  const x = scaleLog().domain([1, largest]).range([left, width - right]);
  const height = top + row * limits.length + 6;
  const out = svg("svg", { class: "limits", viewBox: `0 0 ${width} ${height}`, role: "img", "aria-label": "Limits, on a logarithmic scale; the table below holds the same" });
  for (let power = 1; power <= largest * 1.0001; power *= 10)
    out.append(svg("line", { class: "grid", x1: x(power), x2: x(power), y1: top - 4, y2: height }),
      svg("text", { class: "axis", x: x(power), y: 12, "text-anchor": "middle" }, grouped(power)));
  limits.forEach((limit, i) => {
    const y = top + i * row, end = x(Math.max(1, limit.largest));
    out.append(svg("text", { x: left - 8, y: y + 15, "text-anchor": "end" }, `${limit.shape}, ${limit.operation}`),
      svg("rect", { x: left, y: y + 4, width: Math.max(2, end - left), height: row - 9, class: limit.past ? "ends" : "open" }),
      svg("text", { class: "axis", x: end + 6, y: y + 15 }, limit.past ? grouped(limit.largest) : `${grouped(limit.largest)} and more`));
  });
  return el("section", {}, el("h2", {}, "Its limits"), el("div", { class: "wide" }, out),
    el("details", {}, el("summary", {}, "As a table"), table(["mode", "shape", "operation", "up to", "one step beyond"],
      limits.map((l) => [l.implementation, l.shape, l.operation, (l.complete ? "" : "at least ") + grouped(l.largest), l.past ?? "not searched"]))));
}

export function numbersTable(numbers: Numbers[]): HTMLElement | null {
  if (numbers.length === 0) return null;
  const answers = [...new Set(numbers.flatMap((n) => Object.keys(n.answers)))];
  return el("section", {}, el("h2", {}, "How it stores number literals"),
    table(["mode", ...answers, "asked", "worst literal"], numbers.map((n) => [
      n.implementation, ...answers.map((a) => grouped(n.answers[a] ?? 0)), grouped(n.asked),
      n.worst ? `${n.worst.literal} (${n.worst.answer})` : ""])));
}
