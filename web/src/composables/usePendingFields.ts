import { onScopeDispose } from 'vue'

/** A field whose text has to be read by the core before its value is known. */
export interface PendingField {
  /** Reads what stands in the field now; false where it is no length. */
  read: () => Promise<boolean>
  /** Brings the person back to the field. */
  focus: () => void
}

/** Fields with text that is not read yet, over the whole application. */
const pending = new Set<PendingField>()

/** Tells the application while a field holds text that is not read yet. */
export function usePendingField(field: PendingField) {
  onScopeDispose(() => pending.delete(field))
  return {
    /** The text was changed: nothing may be saved before it is read. */
    hold: () => pending.add(field),
    /** What stands in the field is read. */
    release: () => pending.delete(field),
  }
}

/**
 * Resolves when every field that was typed into is read: true where all of them hold lengths. Whatever saves waits
 * for it, so that the amount typed last is the amount saved.
 */
export async function fieldsRead(): Promise<boolean> {
  for (const field of [...pending]) {
    if (await field.read()) continue
    field.focus()
    return false
  }
  return true
}
