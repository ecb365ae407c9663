// How near implementations are to each other: a tree, and the questions that set its sides apart.
import { cluster, hierarchy, Node } from "d3-hierarchy";
import { scaleLinear } from "d3-scale";

import { hrefOf, questionHref, State } from "./address";
import { Branch, data, isLeaf, Relation } from "./data";
import { el, svg, table } from "./dom";
import { hasPage } from "./implementations";

const percent = (share: number): string => `${Number((100 * share).toFixed(share < 0.1 ? 1 : 0))} %`;
const distanceOf = (node: Node<Relation>): number => (isLeaf(node.data) ? 0 : node.data.distance);

function drawn(tree: Relation): HTMLElement {
  const root = cluster<Relation>().nodeSize([19, 1]).separation(() => 1)(
    hierarchy(tree, (node) => (isLeaf(node) ? undefined : node.children)));
  const leaves = root.leaves();
  const first = Math.min(...leaves.map((l) => l.x)), last = Math.max(...leaves.map((l) => l.x));
  const width = 760, names = 210, top = 34, height = last - first + top + 16;
  const x = scaleLinear().domain([Math.max(0.01, distanceOf(root)), 0]).range([8, width - names]);
  const y = (node: Node<Relation>): number => node.x - first + top;
  const out = svg("svg", { class: "tree", viewBox: `0 0 ${width} ${height}`, role: "img", "aria-label": "A tree of implementations by their answers; the table below holds its widest gaps" });
  for (const tick of x.ticks(5))
    out.append(svg("line", { class: "grid", x1: x(tick), x2: x(tick), y1: top - 14, y2: height }),
      svg("text", { class: "axis", x: x(tick), y: 12, "text-anchor": "middle" }, percent(tick)));
  for (const node of root.descendants()) {
    const at = x(distanceOf(node));
    for (const child of node.children ?? [])
      out.append(svg("path", { d: `M${at},${y(node)}V${y(child)}H${x(distanceOf(child))}` }));
    if (isLeaf(node.data)) {
      const name = node.data.name, label = svg("text", { x: at + 8, y: y(node) + 5 }, name);
      out.append(hasPage(name) ? svg("a", { href: hrefOf(name) }, label) : label);
    }
  }
  return el("div", { class: "wide" }, out);
}

const namesIn = (tree: Relation): string[] => (isLeaf(tree) ? [tree.name] : tree.children.flatMap(namesIn));
const branchesIn = (tree: Relation): Branch[] => (isLeaf(tree) ? [] : [tree, ...tree.children.flatMap(branchesIn)]);

function shortened(names: string[]): string {
  const shown = 6;
  return names.length <= shown ? names.join(", ") : `${names.slice(0, shown - 1).join(", ")} and ${names.length - shown + 1} more`;
}

/** The branches with the largest distances, and what sets their sides apart. */
function gaps(format: string, tree: Relation): HTMLElement {
  const widest = 12;
  const rows = branchesIn(tree).sort((a, b) => b.distance - a.distance).slice(0, widest).map((branch) => [
    percent(branch.distance), shortened(namesIn(branch.children[0])), shortened(namesIn(branch.children[1])),
    el("div", {}, ...(branch.questions.length ? branch.questions.map((q) => el("div", {}, el("a", { href: questionHref(format, q.question) }, q.question), `: ${q.left} | ${q.right}`)) : [el("span", { class: "soft" }, "no single question")]))]);
  return table(["differ in", "one side", "the other", "set apart by"], rows);
}

export function together(view: HTMLElement, now: State): void {
  view.append(el("h1", {}, "Near and far"), el("p", { class: "lead" },
    "Implementations that answer alike are joined first. A branch lies at the share of documents that its two sides, in the mean of all pairs, decode otherwise."));
  const shown = data.relations.filter((r) => !now.format || r.format === now.format);
  for (const { format, tree } of shown)
    view.append(el("section", {}, el("h2", {}, format.toUpperCase()), drawn(tree), el("h3", {}, "The widest gaps"), gaps(format, tree)));
  if (shown.length === 0) view.append(el("p", {}, "A tree needs two implementations that decode the same format."));
}
