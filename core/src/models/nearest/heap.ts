/**
 * The nearest of many, with the farthest of them on top (Williams, Communications of the ACM 7, 1964, algorithm 232). Of
 * equally far ones the later is farther.
 */
export class NearestHeap {
  private size = 0;
  private readonly places: Int32Array;
  private readonly distances: Float64Array;

  constructor(private readonly most: number) {
    this.places = new Int32Array(most);
    this.distances = new Float64Array(most);
  }

  clear(): void {
    this.size = 0;
  }

  offer(distance: number, place: number): void {
    if (this.size < this.most) {
      this.rise(this.size++, distance, place);
      return;
    }
    // Places are offered in ascending order, so that one as far as the farthest does not come in.
    if (distance < (this.distances[0] ?? 0)) this.sink(distance, place);
  }

  /** Writes all from the nearest on, and leaves the heap empty. */
  empty(places: Int32Array, distances: Float64Array, from: number): void {
    while (this.size > 0) {
      const last = --this.size;
      places[from + last] = this.places[0] ?? 0;
      distances[from + last] = this.distances[0] ?? 0;
      this.sink(this.distances[last] ?? 0, this.places[last] ?? 0);
    }
  }

  private rise(start: number, distance: number, place: number): void {
    let at = start;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (!this.isFarther(distance, place, parent)) break;
      this.copy(parent, at);
      at = parent;
    }
    this.put(at, distance, place);
  }

  /** Puts one in the place of the farthest. */
  private sink(distance: number, place: number): void {
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= this.size) break;
      if (
        child + 1 < this.size &&
        this.isFarther(this.distances[child + 1] ?? 0, this.places[child + 1] ?? 0, child)
      )
        child++;
      if (this.isFarther(distance, place, child)) break;
      this.copy(child, at);
      at = child;
    }
    this.put(at, distance, place);
  }

  private isFarther(distance: number, place: number, than: number): boolean {
    const other = this.distances[than] ?? 0;
    return distance > other || (distance === other && place > (this.places[than] ?? 0));
  }

  private copy(from: number, to: number): void {
    this.put(to, this.distances[from] ?? 0, this.places[from] ?? 0);
  }

  private put(at: number, distance: number, place: number): void {
    this.distances[at] = distance;
    this.places[at] = place;
  }
}
