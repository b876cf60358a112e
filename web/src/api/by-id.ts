/** The thing of a list that has this id; undefined where the id is not said, or the thing is gone. */
export const byId = <Thing extends { id?: string | number | null }>(
  list: readonly Thing[],
  id: Thing['id'] | null | undefined,
): Thing | undefined => (id == null ? undefined : list.find((one) => one.id === id))
