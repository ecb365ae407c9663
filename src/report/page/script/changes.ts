// What changed since an earlier run.
import { hrefOf, holds, State, wordsOf } from "./address";
import { BehaviourChange, Changes } from "./data";
import { counted, el, grouped, table } from "./dom";

const shownCases = 5;

function casesOf(names: string[]): string {
  const more = names.length - shownCases;
  return names.slice(0, shownCases).join(", ") + (more > 0 ? ` and ${grouped(more)} more` : "");
}

function section(title: string, list: BehaviourChange[]): HTMLElement | null {
  if (list.length === 0) return null;
  return el("section", {}, el("h2", {}, `${title} (${list.length})`), table(["implementation", "behaviour", "cases"], list.map((c) => [
    el("a", { href: hrefOf(c.implementation) }, c.implementation), el("div", {}, c.sentence, c.whole ? null : el("div", { class: "detail" }, "other cases of a behaviour that both runs have")),
    `${grouped(c.cases.length)}: ${casesOf(c.cases)}`])));
}

export function changesView(view: HTMLElement, now: State, changes: Changes): void {
  const words = wordsOf(now.find);
  const chosen = (list: BehaviourChange[]): BehaviourChange[] => list.filter((c) => (!now.format || c.format === now.format) && holds(`${c.implementation} ${c.sentence} ${c.cause} ${c.cases.join(" ")}`, words));
  const came = chosen(changes.came), went = chosen(changes.went);
  const answers = changes.answers.filter((a) => holds(`${a.subject} ${a.question} ${a.cases.join(" ")}`, words));
  view.append(el("h1", {}, "What changed"), el("p", { class: "lead" }, `Since ${changes.before}: ${counted(came.length, "behaviour")} came, ${went.length} went, ${counted(answers.length, "answer")} changed.`));
  for (const part of [section("Newly failing", came.filter((c) => c.failing)), section("New, and permitted or open", came.filter((c) => !c.failing)), section("Gone", went)])
    if (part) view.append(part);
  if (answers.length)
    view.append(el("section", {}, el("h2", {}, `Other answers (${answers.length})`), table(["implementation", "question", "before", "now", "cases"],
      answers.map((a) => [a.subject, a.question, a.before || "not asked", a.now || "not asked", `${grouped(a.cases.length)}: ${casesOf(a.cases)}`]))));
  const also = [...changes.versions,
    changes.new_cases ? counted(changes.new_cases, "new case") : "", changes.gone_cases ? `${counted(changes.gone_cases, "case")} gone` : "",
    changes.new_implementations.length ? `new: ${changes.new_implementations.join(", ")}` : "",
    changes.gone_implementations.length ? `gone: ${changes.gone_implementations.join(", ")}` : ""].filter(Boolean);
  if (also.length) view.append(el("section", {}, el("h2", {}, "Not compared"), el("ul", {}, ...also.map((line) => el("li", {}, line)))));
  if (came.length + went.length + answers.length === 0) view.append(el("p", {}, "No behaviour and no answer changed."));
}
