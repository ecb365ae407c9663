// The parts of D3 that the page uses; Debian's packages come without types.

declare module "d3-scale" {
  interface Scale {
    (value: number): number;
    domain(values: [number, number]): Scale;
    range(values: [number, number]): Scale;
    ticks(count: number): number[];
  }
  export function scaleLog(): Scale;
  export function scaleLinear(): Scale;
}

declare module "d3-hierarchy" {
  export interface Node<T> {
    data: T;
    x: number;
    y: number;
    children?: Node<T>[];
    leaves(): Node<T>[];
    descendants(): Node<T>[];
  }
  interface Cluster<T> {
    nodeSize(size: [number, number]): Cluster<T>;
    separation(by: (a: Node<T>, b: Node<T>) => number): Cluster<T>;
    (root: Node<T>): Node<T>;
  }
  export function hierarchy<T>(root: T, children: (node: T) => T[] | undefined): Node<T>;
  export function cluster<T>(): Cluster<T>;
}
