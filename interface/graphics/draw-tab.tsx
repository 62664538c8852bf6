/** Draw: the tree of elements, the stage with its time line, and the properties of what is chosen. */
export function DrawTab() {
  return <div className="flex-1" />;
}
