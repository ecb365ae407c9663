// The page of a run. Everything that comes from a document or a library is put in as text, never as markup. The address
// holds the view, so that it can be sent: #/implementation/NAME?find=…&format=json
"use strict";
const data = JSON.parse(document.getElementById("data").textContent);
const view = document.getElementById("view");
const search = document.getElementById("search");
const gravities = [
  ["failure", "Crashes, hangs, runs out of memory, or fails in a way that is not documented"],
  ["value-changed", "Accepts or writes, with another value"],
  ["ill-formed-output", "Writes a text that is no document"],
  ["valid-refused", "Refuses a document, or a value that others write"],
  ["ill-formed-accepted", "Accepts what the standard forbids"],
  ["extension-accepted", "Accepts a known extension"],
  ["minority-answer", "Answers an open question otherwise than most engines"],
];
const rank = new Map(gravities.map(([name], i) => [name, i]));
const most = 400;

/** An element with attributes and children; strings become text. */
function el(tag, attributes = {}, ...children) {
  const out = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) out.setAttribute(name, value);
  out.append(...children.filter((c) => c !== null && c !== undefined && c !== ""));
  return out;
}
function svg(tag, attributes) {
  const out = document.createElementNS("http://www.w3.org/2000/svg", tag);
  for (const [name, value] of Object.entries(attributes)) out.setAttribute(name, value);
  return out;
}
const counted = (n, one) => `${n.toLocaleString("en")} ${one}${n === 1 ? "" : "s"}`;
const nameOf = (index) => data.cases[index].name;
const caseLink = (index) => `#/case/${index}`;
const hrefOf = (implementation) => `#/implementation/${encodeURIComponent(implementation)}`;

function state() {
  const [path, query = ""] = location.hash.replace(/^#\/?/, "").split("?");
  const parameters = new URLSearchParams(query);
  return { parts: path.split("/").map(decodeURIComponent), find: parameters.get("find") || "", format: parameters.get("format") || "" };
}
function addressOf(changes) {
  const now = { ...state(), ...changes };
  const query = new URLSearchParams();
  if (now.find) query.set("find", now.find);
  if (now.format) query.set("format", now.format);
  const text = query.toString();
  return `#/${now.parts.map(encodeURIComponent).join("/")}${text ? "?" + text : ""}`;
}

function fits(behaviour, { find, format }) {
  if (format && behaviour.format !== format) return false;
  if (!find) return true;
  const words = find.toLowerCase().split(/\s+/).filter(Boolean);
  const text = `${behaviour.implementation} ${behaviour.sentence} ${behaviour.cause} ${behaviour.clause} ${behaviour.gravity} ${behaviour.side}`.toLowerCase();
  return words.every((word) => text.includes(word) || behaviour.cases.some((c) => nameOf(c).toLowerCase().includes(word)));
}

/** The behaviours of one implementation as bars: the gravest first, as high as the logarithm of their cases. */
function echo(behaviours) {
  const width = 600, height = 34, step = Math.min(9, width / Math.max(1, behaviours.length));
  const out = svg("svg", { class: "echo", viewBox: `0 0 ${width} ${height}`, preserveAspectRatio: "none", role: "img", "aria-label": `${counted(behaviours.length, "behaviour")}, ${behaviours.filter((b) => b.failing).length} failing` });
  out.append(svg("line", { x1: 0, y1: height - 0.5, x2: width, y2: height - 0.5 }));
  behaviours.forEach((b, i) => {
    const tall = 4 + Math.min(1, Math.log10(1 + b.cases.length) / 3) * (height - 5);
    out.append(svg("rect", { x: i * step, y: height - tall, width: Math.max(1, step - 2), height: tall, class: b.failing ? "fails" : "" }));
  });
  return out;
}

const meant = { strict: "meant to be strict", lax: "meant to be lax", repairs: "meant to repair", subset: "for a subset" };
/** What the modes with a purpose are meant for. */
function purposes(behaviours) {
  return [...new Set(behaviours.map((b) => b.purpose).filter(Boolean))].map((p) => meant[p] || p).join(" or ");
}

function repeatLine(index, implementation) {
  const c = data.cases[index];
  return c.shipped && implementation ? `nachklang try --case ${c.name} --implementation ${implementation}` : "";
}

function documentOf(index) {
  const c = data.cases[index];
  if (c.text === undefined) return el("p", { class: "detail" }, "The document is not in this page.");
  const out = el("div", {}, el("pre", {}, c.text));
  if (c.size > c.shown) out.append(el("p", { class: "detail" }, `${counted(c.shown, "byte")} of ${c.size.toLocaleString("en")} are shown.`));
  return out;
}

function behaviourItem(b, withName) {
  const peers = b.peers.length === 0 ? (b.engines > 1 ? "No other engine does this." : "") : `Also: ${b.peers.join(", ")} (of ${counted(b.engines, "engine")}).`;
  const about = el("div", {},
    el("p", { class: "sentence" }, withName ? el("a", { href: hrefOf(b.implementation) }, b.implementation) : null, withName ? " — " : null, b.sentence),
    el("p", { class: "detail" }, [b.clause, b.modes.filter(Boolean).length ? (b.modes.length === 1 ? "mode " : "modes ") + b.modes.join(", ") : "", peers].filter(Boolean).join(" · ")),
    documentOf(b.witness),
    b.detail ? el("p", { class: "detail" }, b.detail) : null);
  const list = el("ul", {}, ...b.cases.slice(0, most).map((c) => el("li", {}, el("a", { href: caseLink(c) }, nameOf(c)))));
  if (b.cases.length > most) list.append(el("li", {}, `and ${b.cases.length - most} more`));
  about.append(el("details", {}, el("summary", {}, `All cases, the smallest: ${nameOf(b.witness)}`), list));
  return el("li", { class: "behaviour" },
    el("div", { class: "count" + (b.failing ? " fails" : "") }, el("b", {}, b.cases.length.toLocaleString("en")), el("span", {}, b.cases.length === 1 ? "case" : "cases", b.failing ? ", fails" : "", el("br"), b.side)),
    about);
}

function byGravity(behaviours, withName) {
  const out = [];
  for (const [gravity, title] of gravities) {
    const list = behaviours.filter((b) => b.gravity === gravity);
    if (list.length === 0) continue;
    out.push(el("section", {}, el("h2", {}, `${title} (${list.length})`), el("ol", {}, ...list.slice(0, most).map((b) => behaviourItem(b, withName)))));
  }
  return out;
}

function implementations(now) {
  const byName = new Map();
  for (const b of data.behaviours) if (fits(b, now)) byName.set(b.implementation, [...(byName.get(b.implementation) || []), b]);
  const quiet = data.implementations.filter((i) => !byName.has(i.name));
  const rows = [...byName].sort(([a], [b]) => a.localeCompare(b)).map(([name, list]) => {
    list.sort((a, b) => rank.get(a.gravity) - rank.get(b.gravity) || b.cases.length - a.cases.length);
    const known = data.implementations.find((i) => i.name === name) || { version: "", engine: "" };
    const usual = list.filter((b) => !b.purpose), special = list.length - usual.length;
    const failing = usual.filter((b) => b.failing).length;
    return el("li", { class: "one" },
      el("div", { class: "who" }, el("a", { href: hrefOf(name) }, name), el("span", {}, [known.version, known.engine !== name ? known.engine : ""].filter(Boolean).join(", "))),
      echo(usual),
      el("div", { class: "sum" }, `${failing} failing of ${usual.length}`, special ? el("span", { class: "soft" }, el("br"), `${special} in modes ${purposes(list)}`) : null));
  });
  view.append(el("h1", {}, counted(rows.length, "implementation")),
    el("p", { class: "lead" }, "Each bar is one behaviour: the gravest first, as high as the logarithm of its cases. Dark red bars fail; grey ones are permitted, or open."),
    el("ol", {}, ...rows));
  if (quiet.length && !now.find) view.append(el("p", { class: "soft" }, `Without a behaviour here: ${quiet.map((i) => i.name).join(", ")}.`));
}

function implementation(now, name) {
  const all = data.behaviours.filter((b) => b.implementation === name);
  const list = all.filter((b) => fits(b, now));
  const known = data.implementations.find((i) => i.name === name);
  view.append(el("h1", {}, name));
  if (!known) return void view.append(el("p", {}, "This run has no such implementation. ", el("a", { href: "#/" }, "All implementations")));
  const usual = list.filter((b) => !b.purpose), special = list.filter((b) => b.purpose);
  view.append(el("p", { class: "lead" }, `Version ${known.version || "unknown"}, engine ${known.engine}. ${counted(usual.length, "behaviour")}, ${usual.filter((b) => b.failing).length} failing.${list.length < all.length ? ` ${all.length - list.length} more do not fit the search.` : ""}`));
  view.append(...byGravity(usual, false));
  if (special.length) view.append(el("details", {}, el("summary", {}, `${counted(special.length, "behaviour")} in modes ${purposes(special)}`), ...byGravity(special, false)));
}

function causes(now, cause) {
  const list = data.behaviours.filter((b) => fits(b, now));
  if (cause) {
    view.append(el("h1", {}, cause), ...byGravity(list.filter((b) => b.cause === cause), true));
    return;
  }
  const byCause = new Map();
  for (const b of list) byCause.set(b.cause, [...(byCause.get(b.cause) || []), b]);
  const rows = [...byCause].sort((a, b) => b[1].length - a[1].length).map(([name, of]) => el("tr", {},
    el("td", {}, el("a", { href: `#/causes/${encodeURIComponent(name)}` }, name)),
    el("td", {}, [...new Set(of.map((b) => b.implementation))].join(", ")),
    el("td", {}, new Set(of.flatMap((b) => b.cases)).size.toLocaleString("en"))));
  view.append(el("h1", {}, counted(rows.length, "cause")), el("table", {}, el("thead", {}, el("tr", {}, el("th", {}, "cause"), el("th", {}, "implementations"), el("th", {}, "cases"))), el("tbody", {}, ...rows)));
}

function cases(now) {
  const shown = new Map();
  for (const b of data.behaviours) if (fits(b, now)) for (const c of b.cases) shown.set(c, (shown.get(c) || 0) + 1);
  const words = now.find.toLowerCase().split(/\s+/).filter(Boolean);
  const rows = [...shown].sort((a, b) => b[1] - a[1] || nameOf(a[0]).localeCompare(nameOf(b[0]))).filter(([c]) => words.length === 0 || words.some((w) => nameOf(c).toLowerCase().includes(w)) || shown.size < most);
  view.append(el("h1", {}, `${counted(rows.length, "case")} with a behaviour`), el("table", {}, el("tbody", {}, ...rows.slice(0, most).map(([c, n]) => el("tr", {}, el("td", {}, el("a", { href: caseLink(c) }, nameOf(c))), el("td", { class: "soft" }, counted(n, "behaviour")))))));
  if (rows.length > most) view.append(el("p", { class: "soft" }, `${rows.length - most} more: search for a part of the name.`));
}

function oneCase(index) {
  const c = data.cases[index];
  if (!c) return void view.append(el("h1", {}, "No such case"));
  view.append(el("h1", {}, c.name), el("p", { class: "lead" }, [c.format, c.size === undefined ? "" : counted(c.size, "byte"), c.stance ? `stance: ${c.stance}` : "", c.clause || "", c.why || ""].filter(Boolean).join(" · ")), documentOf(index));
  if (c.hex) view.append(el("details", {}, el("summary", {}, "as hexadecimal digits"), el("pre", {}, c.hex)));
  const rows = data.behaviours.filter((b) => b.cases.includes(index)).map((b) => el("tr", {},
    el("td", {}, el("a", { href: hrefOf(b.implementation) }, b.implementation)), el("td", {}, b.sentence), el("td", {}, b.failing ? "fails" : "")));
  view.append(el("h2", {}, `What implementations do here (${rows.length})`), el("table", {}, el("tbody", {}, ...rows)));
  const line = repeatLine(index, (data.behaviours.find((b) => b.cases.includes(index)) || {}).implementation);
  if (line) view.append(el("h2", {}, "Repeat it"), el("pre", {}, line));
}

function show() {
  const now = state();
  view.replaceChildren();
  if (search.value !== now.find) search.value = now.find;
  for (const button of document.querySelectorAll("#formats button")) button.setAttribute("aria-pressed", String(button.value === now.format));
  for (const link of document.querySelectorAll("nav a")) {
    const target = link.getAttribute("href").slice(2).split("?")[0];
    if (target === (now.parts[0] === "implementation" ? "" : now.parts[0].replace(/^case$/, "cases"))) link.setAttribute("aria-current", "page");
    else link.removeAttribute("aria-current");
  }
  if (data.interrupted) view.append(el("p", { role: "status" }, "The run was interrupted: this page covers only what was done."));
  if (now.parts[0] === "implementation") implementation(now, now.parts[1]);
  else if (now.parts[0] === "causes") causes(now, now.parts[1]);
  else if (now.parts[0] === "cases") cases(now);
  else if (now.parts[0] === "case") oneCase(Number(now.parts[1]));
  else implementations(now);
}

for (const format of ["", ...new Set(data.behaviours.map((b) => b.format))]) {
  const button = el("button", { type: "button", value: format }, format === "" ? "all" : format.toUpperCase());
  button.addEventListener("click", () => { location.hash = addressOf({ format }); });
  document.getElementById("formats").append(button);
}
let waiting = 0;
search.addEventListener("input", () => {
  clearTimeout(waiting);
  waiting = setTimeout(() => { history.replaceState(null, "", addressOf({ find: search.value })); show(); }, 150);
});
search.form.addEventListener("submit", (event) => event.preventDefault());
window.addEventListener("hashchange", () => { show(); scrollTo(0, 0); view.focus({ preventScroll: true }); });
document.addEventListener("keydown", (event) => {
  if (event.key === "/" && document.activeElement !== search) { event.preventDefault(); search.focus(); }
});
show();
