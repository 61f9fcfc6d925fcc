/** What the reference that the tidy tree is held against offers, as far as the test uses it: it comes without types. */
declare module 'd3-flextree' {
  export interface FlexNode<T> {
    readonly x: number
    readonly y: number
    readonly data: T
    eachBefore(visit: (node: FlexNode<T>) => void): void
  }
  export interface FlexLayout<T> {
    (tree: FlexNode<T>): FlexNode<T>
    hierarchy(data: T): FlexNode<T>
  }
  export function flextree<T>(options: {
    children: (data: T) => readonly T[] | undefined
    nodeSize: (node: FlexNode<T>) => readonly [number, number]
    spacing: number
  }): FlexLayout<T>
}
