// Cases with a behaviour, and one case: its document, the groups that answer it alike, and how to repeat it.
import { caseHref, hrefOf, State, wordsOf } from "./address";
import { documentOf, fits, most } from "./behaviours";
import { Case, data, Group, nameOf, Refusal } from "./data";
import { aboutRecorded, counted, el, table } from "./dom";
import { implementationOf, linkOf } from "./implementations";
import { markedDocument, placesOf, treeOf } from "./values";

export function cases(view: HTMLElement, now: State): void {
  const shown = new Map<number, number>();
  for (const b of data.behaviours) if (fits(b, now)) for (const c of b.cases) shown.set(c, (shown.get(c) ?? 0) + 1);
  const words = wordsOf(now.find);
  const all = [...shown].sort((a, b) => b[1] - a[1] || nameOf(a[0]).localeCompare(nameOf(b[0])));
  // A word of the search may be one of a behaviour: then all its cases are meant.
  const named = all.filter(([c]) => words.some((w) => nameOf(c).toLowerCase().includes(w)));
  const rows = named.length ? named : all;
  view.append(el("h1", {}, `${counted(rows.length, "case")} with a behaviour`),
    table([], rows.slice(0, most).map(([c, n]) => [el("a", { href: caseHref(c) }, nameOf(c)), el("span", { class: "soft" }, counted(n, "behaviour"))])));
  if (rows.length > most) view.append(el("p", { class: "soft" }, `${rows.length - most} more: search for a part of the name.`));
}

/** The letters that page_data.cpp gives to groups, in their order. */
const letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789";

function membersOf(c: Case, group: number): string[] {
  return [...(c.letters ?? "")].flatMap((letter, i) => (letter === letters[group] ? [data.subjects[i] ?? ""] : []));
}

/** Modes of one implementation share a link: "rapidjson (default, iterative)". */
function memberList(subjects: string[]): HTMLElement {
  const byName = new Map<string, string[]>();
  for (const subject of subjects) {
    const name = implementationOf(subject);
    byName.set(name, [...(byName.get(name) ?? []), subject.slice(name.length + 1)]);
  }
  const out = el("div", { class: "members" });
  for (const [name, modes] of byName) {
    const shown = modes.filter(Boolean);
    if (out.childNodes.length) out.append(", ");
    out.append(linkOf(name), shown.length ? el("span", { class: "soft" }, ` (${shown.join(", ")})`) : "");
  }
  return out;
}

/** What the members of a group answered: a value as a tree, or a written text. */
function answerOf(group: Group): HTMLElement | null {
  if (group.value) return treeOf(group.value);
  if (group.written !== undefined) return el("pre", {}, group.written);
  return group.size ? el("p", { class: "detail" }, `An answer of ${counted(group.size, "byte")} is not shown.`) : null;
}

/** Messages of refusals and where they point, those of most modes first. */
function refusalList(refusals: Refusal[], places: number[]): HTMLElement {
  const rows = [...refusals].sort((a, b) => b[3].length - a[3].length).map(([at, words, message, subjects]) => [
    el("span", { class: "mark" }, at === null ? "–" : String(places.indexOf(at) + 1)),
    el("div", {}, message || "no message", el("div", { class: "detail" }, words || "no place")),
    memberList(subjects.map((i) => data.subjects[i] ?? ""))]);
  return el("details", {}, el("summary", {}, `Messages of refusals and their places (${rows.length})`), table(["at", "message", "given by"], rows));
}

function groupItem(c: Case, group: Group, index: number): { size: number; item: HTMLElement } {
  const members = membersOf(c, index);
  const judged = [group.finding, group.cause].filter(Boolean).join(", ");
  return {
    size: members.length,
    item: el("li", { class: "behaviour" },
      el("div", { class: "count" + (group.fails ? " fails" : "") }, el("b", {}, String(members.length)), el("span", {}, group.fails ? "fails" : members.length === 1 ? "mode" : "modes")),
      el("div", {}, el("p", { class: "sentence" }, group.outcome), el("p", { class: "detail" }, judged),
        group.detail ? el("p", { class: "detail" }, group.detail) : null, answerOf(group), memberList(members))),
  };
}

function repeatLine(index: number, implementation: string | undefined): string {
  const c = data.cases[index];
  return c?.shipped && implementation ? `nachklang try --case ${c.name} --implementation ${implementation}` : "";
}

export function oneCase(view: HTMLElement, index: number): void {
  const c = data.cases[index];
  if (!c) return void view.append(el("h1", {}, "No such case"));
  const about = [c.format, c.size === undefined ? "" : counted(c.size, "byte"), c.stance ? `stance: ${c.stance}` : "", c.clause ?? "", c.why ?? ""];
  const places = placesOf(c.refusals ?? []);
  view.append(el("h1", {}, c.name), el("p", { class: "lead" }, about.filter(Boolean).join(" · ")),
    places.length && c.text !== undefined ? markedDocument(c.text, places) : documentOf(index));
  if (c.hex) view.append(el("details", {}, el("summary", {}, "as hexadecimal digits"), el("pre", {}, c.hex)));
  if (c.refusals?.length) view.append(refusalList(c.refusals, places));
  if (c.meant) view.append(el("details", {}, el("summary", {}, "The value that it means"), treeOf(c.meant)));
  if (c.groups) {
    const groups = c.groups.map((group, i) => groupItem(c, group, i)).sort((a, b) => b.size - a.size);
    view.append(el("section", {}, el("h2", {}, `Groups of equal answers (${groups.length})`), aboutRecorded(data.recorded), el("ol", {}, ...groups.map((g) => g.item))));
  }
  const found = data.behaviours.filter((b) => b.cases.includes(index));
  view.append(el("h2", {}, `Behaviours that it shows (${found.length})`),
    table([], found.map((b) => [el("a", { href: hrefOf(b.implementation) }, b.implementation), b.sentence, b.failing ? "fails" : ""])));
  const line = repeatLine(index, found[0]?.implementation);
  if (line) view.append(el("h2", {}, "Repeat it"), el("pre", {}, line));
}
