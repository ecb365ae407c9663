// All implementations, and the page of one: its behaviours, answers, limits and numbers.
import { hrefOf, questionHref, State } from "./address";
import { bars, byGravity, byGravityFirst, fits, purposes } from "./behaviours";
import { limitsChart, numbersTable } from "./charts";
import { AnswerBy, Behaviour, data } from "./data";
import { counted, el, table } from "./dom";

export const implementationOf = (subject: string): string => subject.split("/")[0] ?? subject;

/** A name as a link to the page of its implementation, if it has one: recorded ones have none. */
export const linkOf = (name: string, text = name): Node | string =>
  data.implementations.some((i) => i.name === name) ? el("a", { href: hrefOf(name) }, text) : text;

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

/** One row a question: what each mode answers; modes that answer alike share a line. */
function answersOf(name: string, now: State): HTMLElement | null {
  const rows = data.questions.filter((q) => !now.format || q.format === now.format).flatMap((q) => {
    const modes = new Map<string, string[]>();
    for (const answer of q.answers)
      for (const by of answer.subjects) {
        const subject = data.subjects[by[0]] ?? "";
        if (implementationOf(subject) !== name) continue;
        const text = answerText(answer.answer, by);
        modes.set(text, [...(modes.get(text) ?? []), subject.slice(name.length + 1)]);
      }
    if (modes.size === 0) return [];
    const cell = el("div", {}, ...[...modes].map(([text, of]) =>
      el("div", {}, text, modes.size > 1 ? el("span", { class: "soft" }, ` (${of.join(", ")})`) : null)));
    return [[el("div", {}, el("a", { href: questionHref(q.format, q.id) }, q.id), el("div", { class: "detail" }, `${q.about} [${q.clause}]`)), cell]];
  });
  if (rows.length === 0) return null;
  return el("section", { id: "answers" }, el("h2", {}, `Its answers to open questions (${rows.length})`), table(["question", "answer"], rows));
}

export function implementation(view: HTMLElement, now: State, name: string): void {
  const all = data.behaviours.filter((b) => b.implementation === name);
  const list = all.filter((b) => fits(b, now));
  const known = data.implementations.find((i) => i.name === name);
  view.append(el("h1", {}, name));
  if (!known) return void view.append(el("p", {}, "This run has no such implementation. ", el("a", { href: "#/" }, "All implementations")));
  const usual = list.filter((b) => !b.purpose), special = list.filter((b) => b.purpose);
  const hidden = list.length < all.length ? ` ${all.length - list.length} more do not fit the search.` : "";
  view.append(el("p", { class: "lead" }, `Version ${known.version || "unknown"}, engine ${known.engine}. ${counted(usual.length, "behaviour")}, ${usual.filter((b) => b.failing).length} failing.${hidden}`),
    ...byGravity(usual, false));
  if (special.length) view.append(el("details", {}, el("summary", {}, `${counted(special.length, "behaviour")} in modes ${purposes(special)}`), ...byGravity(special, false)));
  const own = (subject: string): boolean => implementationOf(subject) === name;
  for (const part of [answersOf(name, now), limitsChart(data.limits.filter((l) => own(l.implementation))), numbersTable(data.numbers.filter((n) => own(n.implementation)))])
    if (part) view.append(part);
}
