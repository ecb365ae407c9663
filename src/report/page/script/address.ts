// The address holds the view, so that it can be sent: #/implementation/NAME?find=…&format=json

export interface State {
  parts: string[];
  find: string;
  format: string;
  /** Only behaviours that no other engine has. */
  alone: boolean;
}

export function state(): State {
  const [path = "", query = ""] = location.hash.replace(/^#\/?/, "").split("?");
  const parameters = new URLSearchParams(query);
  return {
    parts: path.split("/").map(decodeURIComponent),
    find: parameters.get("find") ?? "",
    format: parameters.get("format") ?? "",
    alone: parameters.has("alone"),
  };
}

export function addressOf(changes: Partial<State>): string {
  const now = { ...state(), ...changes };
  const query = new URLSearchParams();
  if (now.find) query.set("find", now.find);
  if (now.format) query.set("format", now.format);
  if (now.alone) query.set("alone", "yes");
  const text = query.toString();
  return `#/${now.parts.map(encodeURIComponent).join("/")}${text ? "?" + text : ""}`;
}

/** The page of an implementation, or of several side by side. */
export const hrefOf = (...implementations: string[]): string => `#/implementation/${implementations.map(encodeURIComponent).join("/")}`;
export const caseHref = (index: number): string => `#/case/${index}`;
export const questionHref = (format: string, id: string): string =>
  `#/question/${encodeURIComponent(format)}/${encodeURIComponent(id)}`;

/** The words of the search, each of which must be there. */
export const wordsOf = (find: string): string[] => find.toLowerCase().split(/\s+/).filter(Boolean);
export const holds = (text: string, words: string[]): boolean => {
  const lower = text.toLowerCase();
  return words.every((word) => lower.includes(word));
};
