// Values as trees that fold, and the places of refusals in a document.
import { Refusal, TreeLine, ValueTree } from "./data";
import { counted, el } from "./dom";

/** Trees with more lines begin folded below this depth. */
const openLines = 12, openDepth = 1;

function lineText([, text, meant]: TreeLine): (Node | string)[] {
  if (meant === undefined) return [text];
  return [el("b", { class: "differs" }, `≠ ${text}`), el("span", { class: "soft" }, `  the document means ${meant}`)];
}

/** The lines from `begin` that are deeper than their parent, as a list; returns where it ends. */
function listOf(lines: TreeLine[], begin: number, depth: number): [HTMLElement, number] {
  const list = el("ul", {});
  let at = begin;
  while (at < lines.length && (lines[at]?.[0] ?? 0) >= depth) {
    const line = lines[at] as TreeLine;
    const next = lines[at + 1];
    if (next === undefined || next[0] <= line[0]) {
      list.append(el("li", {}, ...lineText(line)));
      at += 1;
      continue;
    }
    const [inside, end] = listOf(lines, at + 1, next[0]);
    const differs = lines.slice(at + 1, end).some((l) => l[2] !== undefined);
    const open = lines.length <= openLines || line[0] < openDepth || differs;
    list.append(el("li", {}, el("details", open ? { open: "" } : {}, el("summary", {}, ...lineText(line)), inside)));
    at = end;
  }
  return [list, at];
}

export function treeOf(value: ValueTree): HTMLElement {
  const out = el("div", { class: "value" }, listOf(value.lines, 0, 0)[0]);
  if (value.lost?.length) out.append(el("p", { class: "detail" }, el("b", { class: "differs" }, "≠ missing: "), value.lost.join("; ")));
  if (value.more) out.append(el("p", { class: "detail" }, `${counted(value.more, "line")} more`));
  return out;
}

/** The document with a number at each place where a refusal points. */
export function markedDocument(text: string, places: number[]): HTMLElement {
  const out = el("pre", {});
  let from = 0;
  for (const place of [...places].sort((a, b) => a - b)) {
    out.append(text.slice(from, place), el("span", { class: "mark", "aria-label": `refusal ${places.indexOf(place) + 1} points here` }, String(places.indexOf(place) + 1)));
    from = place;
  }
  out.append(text.slice(from));
  return out;
}

/** The places of refusals, those of most subjects first. */
export function placesOf(refusals: Refusal[]): number[] {
  const counts = new Map<number, number>();
  for (const [at, , , subjects] of refusals) if (at !== null) counts.set(at, (counts.get(at) ?? 0) + subjects.length);
  return [...counts].sort((a, b) => b[1] - a[1]).map(([at]) => at);
}
