// The page's data, as page_data.cpp writes it. Lists refer to each other by index.

export interface Behaviour {
  format: string;
  implementation: string;
  modes: string[];
  side: string;
  cause: string;
  clause: string;
  gravity: string;
  failing: boolean;
  sentence: string;
  detail: string;
  cases: number[];
  witness: number;
  peers: string[];
  engines: number;
  purpose: string;
  excused?: string;
  smallest?: string;
}

/** Depth, text, and what the meant value holds there where this one differs. */
export type TreeLine = [number, string, string?];
export interface ValueTree {
  lines: TreeLine[];
  /** What the meant value holds and this one does not. */
  lost?: string[];
  /** Lines that are left out. */
  more?: number;
}

export interface Group {
  outcome: string;
  finding: string;
  cause: string;
  detail: string;
  fails: boolean;
  value?: ValueTree;
  written?: string;
  /** Of a value or text that is left out, in bytes. */
  size?: number;
}

/** The index of the place in the text that is shown, the place as the library gave it, its message, and the subjects. */
export type Refusal = [number | null, string, string, number[]];

export interface Case {
  format: string;
  name: string;
  size?: number;
  shown?: number;
  text?: string;
  hex?: string;
  shipped?: boolean;
  stance?: string;
  clause?: string;
  why?: string;
  groups?: Group[];
  /** For each subject the letter of its group; a blank if it was not asked. */
  letters?: string;
  meant?: ValueTree;
  refusals?: Refusal[];
}

/** The index of a subject, in how many cases it gives the answer, how often it was asked, and its other answers. */
export type AnswerBy = [number, number, number, ...string[]];
export interface Answer {
  answer: string;
  subjects: AnswerBy[];
  example: number;
}
export interface Question {
  format: string;
  id: string;
  about: string;
  clause: string;
  answers: Answer[];
}

export interface Leaf {
  name: string;
}
export interface Branch {
  distance: number;
  questions: { question: string; left: string; right: string }[];
  children: [Relation, Relation];
}
export type Relation = Leaf | Branch;
export const isLeaf = (relation: Relation): relation is Leaf => "name" in relation;

export interface Limit {
  implementation: string;
  shape: string;
  operation: string;
  largest: number;
  past: string | null;
  complete: boolean;
}

export interface Numbers {
  implementation: string;
  asked: number;
  wrong: number;
  answers: Record<string, number>;
  /** Numbers stored as one near theirs: how many lie from so many ulps away to twice as many. */
  distances?: { from: number; literals: number }[];
  worst: { literal: string; answer: string; ulps: number } | null;
}

/** How the time of decoding grows with documents of one shape. */
export interface Growth {
  implementation: string;
  shape: string;
  exponent: number | null;
  above_linear: boolean;
  ended: string | null;
  points: { amount: number; bytes: number; seconds: number }[];
}

export interface BehaviourChange {
  format: string;
  implementation: string;
  side: string;
  cause: string;
  sentence: string;
  failing: boolean;
  whole: boolean;
  cases: string[];
}
export interface Changes {
  before: string;
  came: BehaviourChange[];
  went: BehaviourChange[];
  answers: { subject: string; question: string; before: string; now: string; cases: string[] }[];
  versions: string[];
  new_cases: number;
  gone_cases: number;
  new_implementations: string[];
  gone_implementations: string[];
}

export interface Data {
  interrupted: boolean;
  implementations: { name: string; version: string; engine: string }[];
  subjects: string[];
  /** Those of the subjects that take part with recorded answers. */
  recorded: string[];
  behaviours: Behaviour[];
  questions: Question[];
  relations: { format: string; tree: Relation }[];
  cases: Case[];
  limits: Limit[];
  numbers: Numbers[];
  growth: Growth[];
  changes?: Changes;
}

export let data: Data;

/** Unpacks what page.cpp has packed: JSON in gzip in base64. */
async function unpacked(id: string): Promise<unknown> {
  const packed = atob(document.getElementById(id)?.textContent ?? "");
  const bytes = new Uint8Array(packed.length);
  for (let i = 0; i < packed.length; i += 1) bytes[i] = packed.charCodeAt(i);
  const plain = new Blob([bytes]).stream().pipeThrough(new DecompressionStream("gzip"));
  return JSON.parse(await new Response(plain).text());
}

export async function load(): Promise<void> {
  data = await unpacked("data") as Data;
}

/** What was answered to each case: most of the page, and no part of its first view. */
export async function loadAnswers(): Promise<void> {
  const answers = await unpacked("answers") as Partial<Case>[];
  data.cases.forEach((c, i) => Object.assign(c, answers[i]));
}

/** What a question asks, with its clause; a question of a sheet may have neither. */
export const aboutOf = (q: Question): string => [q.about, q.clause ? `[${q.clause}]` : ""].filter(Boolean).join(" ");
export const nameOf = (index: number): string => data.cases[index]?.name ?? "";
