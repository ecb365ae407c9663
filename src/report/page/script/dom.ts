// Elements. Everything that comes from a document or a library is put in as text, never as markup.

type Child = Node | string | null | undefined;

/** An element with attributes and children; strings become text, and nothing comes of what is empty. */
export function el(tag: string, attributes: Record<string, string> = {}, ...children: Child[]): HTMLElement {
  const out = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) out.setAttribute(name, value);
  for (const child of children) if (child !== null && child !== undefined && child !== "") out.append(child);
  return out;
}

export function svg(tag: string, attributes: Record<string, string | number>, ...children: Child[]): SVGElement {
  const out = document.createElementNS("http://www.w3.org/2000/svg", tag);
  for (const [name, value] of Object.entries(attributes)) out.setAttribute(name, String(value));
  for (const child of children) if (child) out.append(child);
  return out;
}

export const grouped = (n: number): string => n.toLocaleString("en");
export const counted = (n: number, one: string): string => `${grouped(n)} ${one}${n === 1 ? "" : "s"}`;

/** What a name with a version means, where a page has such names. */
export const aboutRecorded = (recorded: string[]): HTMLElement | null =>
  recorded.length ? el("p", { class: "soft" }, "NAME@VERSION is a recorded answer of an implementation that this run did not ask.") : null;

/** A table with a head and rows of cells. */
export function table(head: string[], rows: Child[][]): HTMLElement {
  const cells = (tag: string) => (child: Child) => el(tag, tag === "th" ? { scope: "col" } : {}, child);
  return el("div", { class: "wide" }, el("table", {},
    head.length ? el("thead", {}, el("tr", {}, ...head.map(cells("th")))) : null,
    el("tbody", {}, ...rows.map((row) => el("tr", {}, ...row.map(cells("td")))))));
}
