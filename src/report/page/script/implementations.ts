// All implementations, and the page of one: its behaviours, answers, limits and numbers.
import { addressOf, hrefOf, questionHref, State } from "./address";
import { bars, byGravity, byGravityFirst, fits, purposes } from "./behaviours";
import { distancesChart, growthChart, limitsChart, numbersTable } from "./charts";
import { aboutOf, AnswerBy, Behaviour, data, Question } from "./data";
import { counted, el, table } from "./dom";

export const implementationOf = (subject: string): string => subject.split("/")[0] ?? subject;

/** Whether an implementation has a page of its own: recorded ones have none. */
export const hasPage = (name: string): boolean => data.implementations.some((i) => i.name === name);
export const linkOf = (name: string, text = name): Node | string => (hasPage(name) ? el("a", { href: hrefOf(name) }, text) : text);

export function implementations(view: HTMLElement, now: State): void {
  const byName = new Map<string, Behaviour[]>();
  for (const b of data.behaviours) if (fits(b, now)) byName.set(b.implementation, [...(byName.get(b.implementation) ?? []), b]);
  const quiet = data.implementations.filter((i) => !byName.has(i.name));
  const rows = [...byName].sort(([a], [b]) => a.localeCompare(b)).map(([name, list]) => {
    list.sort(byGravityFirst);
    const known = data.implementations.find((i) => i.name === name) ?? { version: "", engine: "" };
    const usual = list.filter((b) => !b.purpose), special = list.length - usual.length;
    return el("li", { class: "one" },
      el("div", { class: "who" }, el("a", { href: hrefOf(name) }, name),
        el("span", {}, [known.version, known.engine !== name ? known.engine : ""].filter(Boolean).join(", "))),
      bars(usual),
      el("div", { class: "sum" }, `${usual.filter((b) => b.failing).length} failing of ${usual.length}`,
        special ? el("span", { class: "soft" }, el("br"), `${special} in modes ${purposes(list)}`) : null));
  });
  view.append(el("h1", {}, counted(rows.length, "implementation")),
    el("p", { class: "lead" }, "Each bar is one behaviour: the gravest first, as high as the logarithm of its cases. Dark red bars fail; grey ones are permitted, or open."),
    el("ol", {}, ...rows));
  if (quiet.length && !now.find) view.append(el("p", { class: "soft" }, `Without a behaviour here: ${quiet.map((i) => i.name).join(", ")}.`));
}

/** "refused", or where a mode gives several answers "exact in 12 of 15 cases, else rounded". */
export function answerText(answer: string, by: AnswerBy): string {
  const [, count, asked, ...others] = by;
  return count === asked ? answer : `${answer} in ${count} of ${asked} cases, else ${others.join(" or ")}`;
}

/** What the modes of an implementation answer to a question; modes that answer alike share a line. */
function answersTo(q: Question, name: string): Map<string, string[]> {
  const modes = new Map<string, string[]>();
  for (const answer of q.answers)
    for (const by of answer.subjects) {
      const subject = data.subjects[by[0]] ?? "";
      if (implementationOf(subject) !== name) continue;
      const text = answerText(answer.answer, by);
      modes.set(text, [...(modes.get(text) ?? []), subject.slice(name.length + 1)]);
    }
  return modes;
}

function answerCell(modes: Map<string, string[]>): HTMLElement {
  if (modes.size === 0) return el("span", { class: "soft" }, "not asked");
  return el("div", {}, ...[...modes].map(([text, of]) =>
    el("div", {}, text, modes.size > 1 ? el("span", { class: "soft" }, ` (${of.join(", ")})`) : null)));
}

/** One row a question that one of them was asked; of several implementations only those where they differ. */
function answersOf(names: string[], now: State): HTMLElement | null {
  const rows = data.questions.filter((q) => !now.format || q.format === now.format).flatMap((q) => {
    const given = names.map((name) => answersTo(q, name));
    if (given.every((modes) => modes.size === 0)) return [];
    const texts = given.map((modes) => [...modes.keys()].sort().join("; "));
    if (names.length > 1 && new Set(texts).size === 1) return [];
    return [[el("div", {}, el("a", { href: questionHref(q.format, q.id) }, q.id), el("div", { class: "detail" }, aboutOf(q))), ...given.map(answerCell)]];
  });
  if (rows.length === 0) return null;
  const title = names.length > 1 ? "Where their answers to open questions differ" : "Its answers to open questions";
  return el("section", { id: "answers" }, el("h2", {}, `${title} (${rows.length})`), table(["question", ...(names.length > 1 ? names : ["answer"])], rows));
}

/** Chooses another implementation to be shown beside, and whether only what no other engine does is shown. */
function choices(names: string[], now: State): HTMLElement {
  const others = data.implementations.map((i) => i.name).filter((name) => !names.includes(name)).sort();
  const choose = el("select", { id: "beside" }, el("option", { value: "" }, "none"), ...others.map((name) => el("option", { value: name }, name)));
  choose.addEventListener("change", () => { location.hash = hrefOf(...names, (choose as HTMLSelectElement).value); });
  const alone = el("button", { type: "button", "aria-pressed": String(now.alone) }, "only what no other engine does");
  alone.addEventListener("click", () => { location.hash = addressOf({ alone: !now.alone }); });
  return el("div", { class: "choices" }, others.length ? el("label", { for: "beside" }, "Show beside it") : null, others.length ? choose : null, alone);
}

/** What makes two behaviours of different implementations the same mistake. */
const mistakeOf = (b: Behaviour): string => [b.format, b.side, b.gravity, b.cause].join(" ");

/** Behaviours of several implementations: those that not all of them have, and those that all have. */
function apartAndShared(list: Behaviour[], names: string[]): [Behaviour[], Behaviour[]] {
  const having = new Map<string, Set<string>>();
  for (const b of list) having.set(mistakeOf(b), (having.get(mistakeOf(b)) ?? new Set()).add(b.implementation));
  const isShared = (b: Behaviour): boolean => having.get(mistakeOf(b))?.size === names.length;
  return [list.filter((b) => !isShared(b)), list.filter(isShared)];
}

/** The behaviours of several implementations: first what sets them apart. */
function compared(list: Behaviour[], names: string[]): HTMLElement[] {
  const [apart, shared] = apartAndShared(list, names);
  const all = names.length === 2 ? "Both" : "All";
  return [
    el("section", { id: "apart" }, el("h2", {}, "What sets them apart"),
      el("p", { class: "lead" }, apart.length ? names.map((name) => `${name}: ${counted(apart.filter((b) => b.implementation === name).length, "behaviour")}`).join("; ") + "."
        : "Each of these behaviours is one of all of them.")),
    ...byGravity(apart, true),
    ...(shared.length ? [el("details", { id: "shared" }, el("summary", {}, `${all} have these causes (${counted(shared.length, "behaviour")})`), ...byGravity(shared, true))] : [])];
}

function versionOf(name: string): string {
  const known = data.implementations.find((i) => i.name === name);
  return `${name} ${known?.version || "of an unknown version"}, engine ${known?.engine ?? name}`;
}

/** The page of one implementation, or of several side by side. */
export function implementation(view: HTMLElement, now: State, names: string[]): void {
  const all = data.behaviours.filter((b) => names.includes(b.implementation));
  const list = all.filter((b) => fits(b, now));
  view.append(el("h1", {}, names.join(" and ")));
  if (!names.every(hasPage))
    return void view.append(el("p", {}, "This run has no such implementation. ", el("a", { href: "#/" }, "All implementations")));
  const usual = list.filter((b) => !b.purpose), special = list.filter((b) => b.purpose);
  const hidden = list.length < all.length ? ` ${all.length - list.length} more are not shown: they do not fit the search or the choice.` : "";
  const several = names.length > 1;
  view.append(el("p", { class: "lead" }, `${names.map(versionOf).join("; ")}. ${counted(usual.length, "behaviour")}, ${usual.filter((b) => b.failing).length} failing.${hidden}`),
    choices(names, now));
  const differing = several ? answersOf(names, now) : null;
  if (differing) view.append(differing);
  view.append(...(several ? compared(usual, names) : byGravity(usual, false)));
  if (special.length) view.append(el("details", {}, el("summary", {}, `${counted(special.length, "behaviour")} in modes ${purposes(special)}`), ...byGravity(special, several)));
  const own = (subject: string): boolean => names.includes(implementationOf(subject));
  const ofThese = <T extends { implementation: string }>(records: T[]): T[] => records.filter((r) => own(r.implementation));
  for (const part of [several ? null : answersOf(names, now), limitsChart(ofThese(data.limits)), growthChart(ofThese(data.growth)),
    numbersTable(ofThese(data.numbers)), distancesChart(ofThese(data.numbers))])
    if (part) view.append(part);
}
