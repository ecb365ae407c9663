// Behaviours by cause: which exist, and which implementations show them.
import { State } from "./address";
import { byGravity, fits } from "./behaviours";
import { Behaviour, data } from "./data";
import { counted, el, grouped, table } from "./dom";

export function causes(view: HTMLElement, now: State, cause: string | undefined): void {
  const list = data.behaviours.filter((b) => fits(b, now));
  if (cause) return void view.append(el("h1", {}, cause), ...byGravity(list.filter((b) => b.cause === cause), true));
  const byCause = new Map<string, Behaviour[]>();
  for (const b of list) byCause.set(b.cause, [...(byCause.get(b.cause) ?? []), b]);
  const rows = [...byCause].sort((a, b) => b[1].length - a[1].length).map(([name, of]) => [
    el("a", { href: `#/causes/${encodeURIComponent(name)}` }, name),
    [...new Set(of.map((b) => b.implementation))].join(", "),
    grouped(new Set(of.flatMap((b) => b.cases)).size)]);
  view.append(el("h1", {}, counted(rows.length, "cause")), table(["cause", "implementations", "cases"], rows));
}
