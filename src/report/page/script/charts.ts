// What was measured: limits, growth and distances of numbers on logarithmic scales, and the survey of number literals.
import { scaleLog } from "d3-scale";

import { Growth, Limit, Numbers } from "./data";
import { counted, el, grouped, svg, table } from "./dom";

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

const duration = (seconds: number): string => seconds >= 1 ? `${+seconds.toFixed(1)} s` : seconds >= 1e-3 ? `${+(seconds * 1e3).toFixed(1)} ms` : `${(seconds * 1e6).toFixed(0)} µs`;
const size = (bytes: number): string => bytes >= 1e6 ? `${+(bytes / 1e6).toFixed(1)} MB` : bytes >= 1e3 ? `${+(bytes / 1e3).toFixed(1)} KB` : `${bytes} B`;
const powersOfTen = (from: number, to: number): number[] => {
  const out: number[] = [];
  for (let power = Math.ceil(Math.log10(from)); power <= Math.floor(Math.log10(to)); ++power) out.push(10 ** power);
  return out;
};
const said = (growth: Growth): string => growth.above_linear ? "more than in proportion" : growth.exponent !== null ? "in proportion" : "unknown";

/** Time over size, both logarithmic: what grows in proportion rises as the dashed lines do. */
export function growthChart(growths: Growth[]): HTMLElement | null {
  const drawn = growths.filter((g) => g.points.length > 1 && g.points.every((p) => p.seconds > 0));
  if (growths.length === 0) return null;
  const steep = drawn.filter((g) => g.above_linear);
  const rows = table(["mode", "shape", "time grows as", "largest", "took", ""], growths.map((g) => {
    const last = g.points[g.points.length - 1];
    return [g.implementation, g.shape, g.exponent === null ? "-" : `bytes^${g.exponent.toFixed(1)}`, last ? size(last.bytes) : "-", last ? duration(last.seconds) : "-",
      said(g) + (g.ended ? `, then ${g.ended}` : "")];
  }));
  const section = el("section", {}, el("h2", {}, "How its time grows"),
    el("p", {}, `Time to decode a document against its size; the dashed lines rise in proportion. ${counted(steep.length, "shape")} of ${growths.length} ${steep.length === 1 ? "takes" : "take"} more than in proportion.`));
  if (drawn.length > 0) section.append(el("div", { class: "wide" }, growthLines(drawn, steep)));
  section.append(el("details", {}, el("summary", {}, "As a table"), rows));
  return section;
}

function growthLines(drawn: Growth[], steep: Growth[]): SVGElement {
  const width = 720, height = 320, left = 60, right = 210, top = 14, bottom = 30;
  const points = drawn.flatMap((g) => g.points), bytes = points.map((p) => p.bytes), seconds = points.map((p) => p.seconds);
  const domain = (values: number[]): [number, number] => [Math.min(...values), Math.max(...values)];
  const [fewest, most] = domain(bytes), [shortest, longest] = domain(seconds);
  const x = scaleLog().domain([fewest, most]).range([left, width - right]);
  const y = scaleLog().domain([shortest, longest]).range([height - bottom, top]);
  const out = svg("svg", { class: "growth", viewBox: `0 0 ${width} ${height}`, role: "img", "aria-label": "Time against size, both logarithmic; the table below holds the same" });
  for (const power of powersOfTen(fewest, most))
    out.append(svg("line", { class: "grid", x1: x(power), x2: x(power), y1: top, y2: height - bottom }), svg("text", { class: "axis", x: x(power), y: height - 10, "text-anchor": "middle" }, size(power)));
  for (const power of powersOfTen(shortest, longest)) {
    out.append(svg("line", { class: "grid", x1: left, x2: width - right, y1: y(power), y2: y(power) }), svg("text", { class: "axis", x: left - 6, y: y(power) + 4, "text-anchor": "end" }, duration(power)));
    const end = Math.min(most, fewest * longest / power);
    out.append(svg("line", { class: "even", x1: x(fewest), y1: y(power), x2: x(end), y2: y(power * end / fewest) }));
  }
  const path = (g: Growth): string => g.points.map((p, i) => `${i === 0 ? "M" : "L"}${x(p.bytes).toFixed(1)},${y(p.seconds).toFixed(1)}`).join("");
  for (const g of drawn) out.append(svg("path", { class: g.above_linear ? "steep" : "", d: path(g) }));
  // A label beside the end of each steep line, none closer than a line of text to the one above it.
  const labels = steep.flatMap((g) => g.points.slice(-1).map((p) => ({ name: `${g.shape}, ${g.implementation}`, x: x(p.bytes) + 6, y: y(p.seconds) + 4 }))).sort((a, b) => a.y - b.y);
  let above = 0;
  for (const label of labels) {
    above = Math.max(label.y, above + 15);
    out.append(svg("text", { class: "steep", x: label.x, y: above }, label.name));
  }
  return out;
}

/** How many literals are stored how far from their number. */
export function distancesChart(numbers: Numbers[]): HTMLElement | null {
  const lines = numbers.flatMap((n) => (n.distances ?? []).map((d) => ({ mode: n.implementation, ...d })));
  if (lines.length === 0) return null;
  const width = 720, left = 250, right = 150, row = 20, top = 6;
  const most = Math.max(10, ...lines.map((l) => l.literals)), x = scaleLog().domain([0.7, most]).range([left, width - right]);
  const height = top + row * lines.length + 6;
  const out = svg("svg", { class: "limits", viewBox: `0 0 ${width} ${height}`, role: "img", "aria-label": "Distances in ulp, on a logarithmic scale; the table below holds the same" });
  const range = (from: number): string => `${from} to ${2 * from} ulp`;
  lines.forEach((line, i) => {
    const y = top + i * row;
    out.append(svg("text", { x: left - 8, y: y + 14, "text-anchor": "end" }, (lines[i - 1]?.mode === line.mode ? "" : `${line.mode}: `) + range(line.from)),
      svg("rect", { x: left, y: y + 3, width: Math.max(2, x(line.literals) - left), height: row - 7, class: "ends" }),
      svg("text", { class: "axis", x: x(line.literals) + 6, y: y + 14 }, grouped(line.literals)));
  });
  return el("section", {}, el("h2", {}, "How far its numbers are off"),
    el("p", {}, "Literals stored as a number near theirs, by the distance in units of the last place; the nearest number is at most half a unit away."),
    el("div", { class: "wide" }, out),
    el("details", {}, el("summary", {}, "As a table"), table(["mode", "distance", "literals"], lines.map((l) => [l.mode, range(l.from), grouped(l.literals)]))));
}
