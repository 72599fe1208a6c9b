import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import { post, put, send } from '@/api/client'
import type { Decided, PatternView, Preview, Problem, Recipe, Step, TakenView } from '@/api/types'

/** A recipe is plain JSON; a reactive one cannot be cloned as it is. */
const copy = (recipe: Recipe): Recipe => JSON.parse(JSON.stringify(recipe)) as Recipe

/**
 * The recipe on the cutting table: previewed at once, kept after every finished change, with undo and
 * redo over the whole sitting. Nothing is computed here: the core folds the recipe on the server.
 */
export function useRecipe() {
  const patternId = ref<number>()
  const recipe = ref<Recipe>({ form: 1, steps: [] })
  const preview = shallowRef<Preview>()
  const inHand = ref<number>()
  const problem = shallowRef<Problem>()
  const revision = ref(0)
  const saving = ref(false)
  const past = ref<Recipe[]>([])
  const future = ref<Recipe[]>([])
  let kept: Recipe = copy(recipe.value)
  let drawing = false
  let drawAgain = false
  let saveAgain = false

  function load(view: PatternView): void {
    patternId.value = view.id
    recipe.value = copy(view.recipe)
    kept = copy(view.recipe)
    preview.value = view.preview
    revision.value = view.revision
    inHand.value = view.recipe.steps.filter((step) => step.on).at(-1)?.id
    past.value = []
    future.value = []
    void draw()
  }

  /** Takes in how the pattern stands now: another tab may have changed it. Own changes stay under undo. */
  function follow(view: PatternView): void {
    if (view.id !== patternId.value) load(view)
    else if (view.revision > revision.value && !saving.value) takeTheirs(view)
  }

  /** Draws the recipe as it stands. One request at a time: while one is under way the newest waits. */
  async function draw(): Promise<void> {
    if (patternId.value === undefined) return
    if (drawing) {
      drawAgain = true
      return
    }
    drawing = true
    const body = { recipe: recipe.value, in_hand: inHand.value ?? null }
    const result = await send(
      post('/api/patterns/{id}/preview', { params: { path: { id: patternId.value } }, body }),
    )
    drawing = false
    if (result.ok) preview.value = result.value
    else problem.value = result.problem
    if (drawAgain) {
      drawAgain = false
      await draw()
    }
  }

  /** Changes the recipe for the eye only: a drag under way. */
  function sketch(change: (recipe: Recipe) => void): void {
    change(recipe.value)
    void draw()
  }

  /** A finished change: drawn, undoable and kept. */
  function commit(change: (recipe: Recipe) => void): void {
    change(recipe.value)
    past.value.push(copy(kept))
    future.value = []
    kept = copy(recipe.value)
    void draw()
    void save()
  }

  let deciding: Promise<unknown> = Promise.resolve()

  /**
   * Takes a decision in where it belongs: into the step that does the same, or as a step in its layer's place. The core
   * says where; one at a time, since each is placed among the steps before it.
   */
  function decide(decided: Decided): Promise<TakenView | undefined> {
    const taken = deciding.then(async () => {
      const result = await send(post('/api/recipe/take', { body: { recipe: recipe.value, decided } }))
      problem.value = result.ok ? undefined : result.problem
      if (!result.ok) return undefined
      const { step, at, contribution } = result.value
      commit((draft) => {
        const there = draft.steps.find((each) => each.id === step.id)
        if (there && contribution) there.more = [...(there.more ?? []), contribution]
        else draft.steps.splice(at, 0, step)
      })
      return result.value
    })
    deciding = taken
    return taken
  }

  /** Brings a step to another place, unless another step could not be done then. */
  async function move(id: number, to: number): Promise<void> {
    if (patternId.value === undefined) return
    const params = { path: { id: patternId.value } }
    const body = { recipe: recipe.value, step: id, to }
    const result = await send(post('/api/patterns/{id}/moved', { params, body }))
    problem.value = result.ok ? undefined : result.problem
    if (!result.ok) return
    const order = result.value.steps.map((step) => step.id)
    commit((draft) => draft.steps.sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id)))
  }

  function turnBack(from: Recipe[], onto: Recipe[]): void {
    const target = from.pop()
    if (!target) return
    onto.push(copy(kept))
    recipe.value = copy(target)
    kept = copy(target)
    void draw()
    void save()
  }

  async function save(): Promise<void> {
    if (patternId.value === undefined) return
    if (saving.value) {
      saveAgain = true
      return
    }
    saving.value = true
    const params = { path: { id: patternId.value } }
    const body = { revision: revision.value, recipe: kept }
    const result = await send(put('/api/patterns/{id}/recipe', { params, body }))
    saving.value = false
    problem.value = result.ok ? undefined : result.problem
    if (result.ok) revision.value = result.value.revision
    if (saveAgain) {
      saveAgain = false
      await save()
    }
  }

  /** Resolves when everything that was changed is kept, or could not be. */
  async function settled(): Promise<boolean> {
    while (saving.value) await new Promise((resolve) => setTimeout(resolve, 15))
    return problem.value === undefined
  }

  /** After a conflict: takes the other person's recipe as the newest, own changes stay under undo. */
  function takeTheirs(current: { recipe: Recipe; revision: number }): void {
    past.value.push(copy(recipe.value))
    recipe.value = copy(current.recipe)
    kept = copy(current.recipe)
    revision.value = current.revision
    problem.value = undefined
    void draw()
  }

  const stepInHand = computed<Step | undefined>(() =>
    recipe.value.steps.find((step) => step.id === inHand.value),
  )

  function take(id: number): void {
    inHand.value = id
    void draw()
  }

  onScopeDispose(() => {
    drawAgain = false
  })

  return {
    recipe,
    preview,
    inHand,
    stepInHand,
    problem,
    saving,
    revision,
    canUndo: computed(() => past.value.length > 0),
    canRedo: computed(() => future.value.length > 0),
    follow,
    sketch,
    commit,
    decide,
    move,
    take,
    takeTheirs,
    settled,
    undo: () => turnBack(past.value, future.value),
    redo: () => turnBack(future.value, past.value),
  }
}
