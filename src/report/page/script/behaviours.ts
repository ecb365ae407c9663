// Behaviours as a list, the gravest first, and as a row of bars.
import { caseHref, hrefOf, State, wordsOf } from "./address";
import { Behaviour, data, nameOf } from "./data";
import { counted, el, grouped, svg } from "./dom";

export const most = 400;

export const gravities: [string, string][] = [
  ["failure", "Crashes, hangs, runs out of memory, or fails in a way that is not documented"],
  ["value-changed", "Accepts or writes, with another value"],
  ["ill-formed-output", "Writes a text that is no document"],
  ["valid-refused", "Refuses a document, or a value that others write"],
  ["ill-formed-accepted", "Accepts what the standard forbids"],
  ["extension-accepted", "Accepts a known extension"],
  ["minority-answer", "Answers an open question otherwise than most engines"],
];
const rank = new Map(gravities.map(([name], i) => [name, i]));
export const byGravityFirst = (a: Behaviour, b: Behaviour): number =>
  (rank.get(a.gravity) ?? 0) - (rank.get(b.gravity) ?? 0) || b.cases.length - a.cases.length;

/** Whether other engines were asked, and none has it. */
export const isAlone = (b: Behaviour): boolean => b.peers.length === 0 && b.engines > 1;

export function fits(behaviour: Behaviour, { find, format, alone }: State): boolean {
  if (format && behaviour.format !== format) return false;
  if (alone && !isAlone(behaviour)) return false;
  const b = behaviour;
  const text = `${b.implementation} ${b.sentence} ${b.cause} ${b.clause} ${b.gravity} ${b.side}`.toLowerCase();
  return wordsOf(find).every((word) => text.includes(word) || b.cases.some((c) => nameOf(c).toLowerCase().includes(word)));
}

/** The behaviours of one implementation as bars: the gravest first, as high as the logarithm of their cases. */
export function bars(behaviours: Behaviour[]): SVGElement {
  const width = 600, height = 34, step = Math.min(9, width / Math.max(1, behaviours.length));
  const failing = behaviours.filter((b) => b.failing).length;
  const out = svg("svg", {
    class: "bars", viewBox: `0 0 ${width} ${height}`, preserveAspectRatio: "none", role: "img",
    "aria-label": `${counted(behaviours.length, "behaviour")}, ${failing} failing`,
  }, svg("line", { x1: 0, y1: height - 0.5, x2: width, y2: height - 0.5 }));
  behaviours.forEach((b, i) => {
    const tall = 4 + Math.min(1, Math.log10(1 + b.cases.length) / 3) * (height - 5);
    out.append(svg("rect", { x: i * step, y: height - tall, width: Math.max(1, step - 2), height: tall, class: b.failing ? "fails" : "" }));
  });
  return out;
}

const meant: Record<string, string> = { strict: "meant to be strict", lax: "meant to be lax", repairs: "meant to repair", subset: "for a subset" };
/** What the modes with a purpose are meant for. */
export const purposes = (behaviours: Behaviour[]): string =>
  [...new Set(behaviours.map((b) => b.purpose).filter(Boolean))].map((p) => meant[p] ?? p).join(" or ");

/** A case's document, or as much of it as the page holds. */
export function documentOf(index: number): HTMLElement {
  const c = data.cases[index];
  if (c?.text === undefined) return el("p", { class: "detail" }, "The document is not in this page.");
  const out = el("div", {}, el("pre", {}, c.text));
  if ((c.size ?? 0) > (c.shown ?? 0))
    out.append(el("p", { class: "detail" }, `${counted(c.shown ?? 0, "byte")} of ${grouped(c.size ?? 0)} are shown.`));
  return out;
}

const witnessLength = 200;

/** The smallest document of a behaviour, as far as it fits two lines. */
function witnessOf(b: Behaviour): HTMLElement {
  const c = data.cases[b.witness];
  const text = b.smallest ?? c?.text;
  if (text === undefined) return documentOf(b.witness);
  if (text.length <= witnessLength) return el("pre", {}, text);
  return el("div", {}, el("pre", {}, text.slice(0, witnessLength) + "…"),
    el("p", { class: "detail" }, el("a", { href: caseHref(b.witness) }, `the document, ${counted(c?.size ?? text.length, "byte")}`)));
}

function peersOf(b: Behaviour): string {
  if (b.peers.length === 0) return isAlone(b) ? "No other engine does this." : "";
  return `Also: ${b.peers.join(", ")} (of ${counted(b.engines, "engine")}).`;
}

function item(b: Behaviour, withName: boolean): HTMLElement {
  const modes = b.modes.filter(Boolean);
  const figures = [b.clause, modes.length ? (modes.length === 1 ? "mode " : "modes ") + modes.join(", ") : "", peersOf(b),
    b.excused ? `excused: ${b.excused}` : ""];
  const list = el("ul", {}, ...b.cases.slice(0, most).map((c) => el("li", {}, el("a", { href: caseHref(c) }, nameOf(c)))));
  if (b.cases.length > most) list.append(el("li", {}, `and ${b.cases.length - most} more`));
  return el("li", { class: "behaviour" },
    el("div", { class: "count" + (b.failing ? " fails" : "") }, el("b", {}, grouped(b.cases.length)),
      el("span", {}, b.cases.length === 1 ? "case" : "cases", b.failing ? ", fails" : "", el("br"), b.side)),
    el("div", {},
      el("p", { class: "sentence" }, withName ? el("a", { href: hrefOf(b.implementation) }, b.implementation) : null, withName ? " — " : null, b.sentence),
      el("p", { class: "detail" }, figures.filter(Boolean).join(" · ")),
      witnessOf(b),
      b.detail ? el("p", { class: "detail" }, b.detail) : null,
      el("details", {}, el("summary", {}, `All cases, the smallest: ${nameOf(b.witness)}`), list)));
}

export function byGravity(behaviours: Behaviour[], withName: boolean): HTMLElement[] {
  return gravities.flatMap(([gravity, title]) => {
    const list = behaviours.filter((b) => b.gravity === gravity);
    if (list.length === 0) return [];
    return [el("section", {}, el("h2", {}, `${title} (${list.length})`),
      el("ol", {}, ...list.slice(0, most).map((b) => item(b, withName))))];
  });
}
