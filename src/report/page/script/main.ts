// Chooses the view by the address, and ties the page's header to it.
import { addressOf, state } from "./address";
import { cases, oneCase } from "./cases";
import { causes } from "./causes";
import { changesView } from "./changes";
import { data, load, loadAnswers } from "./data";
import { el } from "./dom";
import { implementation, implementations } from "./implementations";
import { question, questions } from "./questions";
import { together } from "./together";

const view = document.getElementById("view") as HTMLElement;
const search = document.getElementById("search") as HTMLInputElement;
const nav = document.querySelector("nav") as HTMLElement;

/** The view of the header under which a view belongs. */
const sections: Record<string, string> = { implementation: "", case: "cases", question: "questions" };

function show(): void {
  const now = state();
  const [kind = "", name = "", ...more] = now.parts;
  view.replaceChildren();
  if (search.value !== now.find) search.value = now.find;
  for (const button of document.querySelectorAll<HTMLButtonElement>("#formats button")) button.setAttribute("aria-pressed", String(button.value === now.format));
  for (const link of nav.querySelectorAll("a")) {
    const target = (link.getAttribute("href") ?? "").slice(2).split("?")[0];
    if (target === (sections[kind] ?? kind)) link.setAttribute("aria-current", "page");
    else link.removeAttribute("aria-current");
  }
  if (data.interrupted) view.append(el("p", { role: "status" }, "The run was interrupted: this page covers only what was done."));
  if (kind === "implementation") implementation(view, now, [name, ...more]);
  else if (kind === "together") together(view, now);
  else if (kind === "questions") questions(view, now);
  else if (kind === "question") question(view, name, more[0] ?? "");
  else if (kind === "causes") causes(view, now, name);
  else if (kind === "cases") cases(view, now);
  else if (kind === "case") oneCase(view, Number(name));
  else if (kind === "changes" && data.changes) changesView(view, now, data.changes);
  else implementations(view, now);
}

function fillHeader(): void {
  if (data.changes) nav.append(el("a", { href: "#/changes" }, "Changes"));
  for (const format of ["", ...new Set([...data.behaviours, ...data.questions].map((b) => b.format))]) {
    const button = el("button", { type: "button", value: format }, format === "" ? "all" : format.toUpperCase());
    button.addEventListener("click", () => { location.hash = addressOf({ format }); });
    document.getElementById("formats")?.append(button);
  }
}

let waiting = 0;
search.addEventListener("input", () => {
  clearTimeout(waiting);
  waiting = window.setTimeout(() => { history.replaceState(null, "", addressOf({ find: search.value })); if (data) show(); }, 150);
});
search.form?.addEventListener("submit", (event) => event.preventDefault());
document.addEventListener("keydown", (event) => {
  if (event.key === "/" && document.activeElement !== search) { event.preventDefault(); search.focus(); }
});
function start(): void {
  fillHeader();
  window.addEventListener("hashchange", () => { show(); scrollTo(0, 0); view.focus({ preventScroll: true }); });
  show();
}
async function open(): Promise<void> {
  try {
    await load();
  } catch (reason) {
    view.append(el("p", { role: "alert" }, `This browser cannot unpack the page's data (${String(reason)}). Use a version of 2023 or later.`));
    return;
  }
  start();
  await loadAnswers();
  if (state().parts[0] === "case") show();
}
void open();
