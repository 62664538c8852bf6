/**
 * Results for the last few inputs. What is worked out from a show is asked for again and again between two changes, and
 * never again afterwards; a WeakMap would hold on to all of it until the whole heap is collected.
 */
export class KeepLast<V> {
  private readonly entries: { key: readonly unknown[]; value: V }[] = [];

  /** Keeps results for the last `most` inputs; two are enough for before and after a change. */
  constructor(private readonly most = 2) {}

  /** The result for inputs that are the very same as these, worked out by `make` where it is not known. */
  get(key: readonly unknown[], make: () => V): V {
    const { entries } = this;
    const at = entries.findIndex((e) => e.key.every((part, i) => part === key[i]));
    const entry = at < 0 ? { key, value: make() } : (entries.splice(at, 1)[0] as { key: readonly unknown[]; value: V });
    entries.unshift(entry);
    if (entries.length > this.most) entries.pop();
    return entry.value;
  }
}
