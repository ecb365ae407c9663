// Open questions, each with its answers and the implementations that give them.
import { caseHref, holds, questionHref, State, wordsOf } from "./address";
import { aboutOf, data, nameOf, Question } from "./data";
import { aboutRecorded, counted, el, table } from "./dom";
import { answerText, implementationOf, linkOf } from "./implementations";

const shareOf = (q: Question, count: number): string =>
  `${Math.round((100 * count) / q.answers.reduce((all, a) => all + a.subjects.length, 0))} %`;

export function questions(view: HTMLElement, now: State): void {
  const list = data.questions.filter((q) => (!now.format || q.format === now.format) &&
    holds(`${q.id} ${q.about} ${q.answers.map((a) => a.answer).join(" ")}`, wordsOf(now.find)));
  view.append(el("h1", {}, counted(list.length, "question")),
    el("p", { class: "lead" }, "Points that a standard leaves open, and known extensions. An answer counts each mode of an implementation."),
    table(["question", "answers, the most frequent first"], list.map((q) => [
      el("div", {}, el("a", { href: questionHref(q.format, q.id) }, q.id), el("div", { class: "detail" }, aboutOf(q))),
      q.answers.map((a) => `${a.answer} ${a.subjects.length}`).join(" · ")])));
}

export function question(view: HTMLElement, format: string, id: string): void {
  const q = data.questions.find((known) => known.format === format && known.id === id);
  view.append(el("h1", {}, id));
  if (!q) return void view.append(el("p", {}, "No implementation of this run was asked it. ", el("a", { href: "#/questions" }, "All questions")));
  view.append(el("p", { class: "lead" }, aboutOf(q)));
  const about = aboutRecorded(data.recorded);
  if (about) view.append(about);
  for (const answer of q.answers) {
    const rows = answer.subjects.map((by) => {
      const subject = data.subjects[by[0]] ?? "";
      return el("li", {}, linkOf(implementationOf(subject), subject),
        by[1] === by[2] ? null : el("span", { class: "soft" }, ` ${answerText(answer.answer, by)}`));
    });
    view.append(el("section", {}, el("h2", {}, `${answer.answer} — ${counted(rows.length, "mode")}, ${shareOf(q, rows.length)}`),
      el("p", { class: "detail" }, "for example on ", el("a", { href: caseHref(answer.example) }, nameOf(answer.example))),
      el("ul", { class: "columns" }, ...rows)));
  }
}
