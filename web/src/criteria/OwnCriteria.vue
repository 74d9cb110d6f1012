<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { ExpressionTrial, OwnForm } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { words } from '@/wording/format'
import StandardBar from './StandardBar.vue'
import type { StandardEditor } from './useStandard'

/** Criteria of one's own: an expression is checked and tried on the facts of now while it is written. */
const props = defineProps<{ standard: StandardEditor }>()
const { draft, all } = props.standard

const empty = (): OwnForm => ({ code: 'own-', title: '', demand: '', expression: '' })
const form = ref<OwnForm>(empty())
const trial = ref<ExpressionTrial>()
const { latest, problem } = useAttempt()
const complete = computed(
  () =>
    form.value.code.length > 4 && form.value.title && form.value.demand && form.value.expression,
)
const there = computed(() => draft.value?.own.some((o) => o.code === form.value.code) ?? false)

let waiting = 0
watch(
  form,
  () => {
    window.clearTimeout(waiting)
    trial.value = undefined
    if (complete.value) waiting = window.setTimeout(() => void tryOut(), 400)
  },
  { deep: true },
)

async function tryOut() {
  await latest(
    () => answerOf(api.POST('/api/expression-trials', { body: form.value })),
    (answer) => (trial.value = answer),
  )
}

function keep() {
  const others = (draft.value?.own ?? []).filter((o) => o.code !== form.value.code)
  props.standard.setOwn([...others, { ...form.value }])
  form.value = empty()
}

function remove(code: string) {
  props.standard.setOwn((draft.value?.own ?? []).filter((o) => o.code !== code))
}
</script>

<template>
  <StandardBar v-if="draft" :standard="standard" />
  <p v-if="standard.problem.value" class="wrong" role="alert">{{ standard.problem.value }}</p>
  <div v-if="draft" class="split">
    <section>
      <h2>In this version</h2>
      <p v-if="!draft.own.length" class="small quiet">
        None yet. Write one beside this: it is judged for every resource like those that ship.
      </p>
      <div v-for="o in draft.own" :key="o.code" class="own">
        <div class="row-between">
          <b>{{ o.title }}</b>
          <span>
            <button class="link small" @click="form = { ...o }">change</button>
            <button class="link small ml-3" @click="remove(o.code)">take away</button>
          </span>
        </div>
        <p class="small">{{ o.demand }}</p>
        <p class="mono small">{{ o.expression }}</p>
        <p class="mono small quiet">{{ o.code }}</p>
      </div>
    </section>
    <section>
      <h2>{{ there ? 'Change one' : 'Write one' }}</h2>
      <form class="form" @submit.prevent="keep">
        <v-text-field v-model="form.code" label="Code" class="mono" />
        <v-text-field
          v-model="form.title"
          label="Title"
          placeholder="Databases are drilled from tape"
        />
        <v-text-field v-model="form.demand" label="What it demands, in one sentence" />
        <v-textarea
          v-model="form.expression"
          label="Expression (CEL): true where it is met"
          placeholder="kind != 'database' || newest_consistency == 'application'"
          rows="3"
          class="mono"
        />
        <p v-if="problem || trial?.problem" class="wrong small" role="alert">
          {{ problem || trial?.problem }}
        </p>
        <template v-else-if="trial">
          <p class="small" role="status">
            On the facts of now: {{ trial.met }} met, <b>{{ trial.notMet }} not met</b>,
            {{ trial.notEnoughData }} with not enough data.
          </p>
          <div class="rows">
            <p v-for="r in trial.rows.slice(0, 12)" :key="r.resource" class="small">
              <b>{{ words(r.state) }}</b> {{ r.sentence }}
            </p>
          </div>
        </template>
        <v-btn
          type="submit"
          color="primary"
          variant="flat"
          :disabled="!complete || !trial || !!trial.problem"
          >{{ there ? 'Change in the draft' : 'Add to the draft' }}</v-btn
        >
      </form>
      <details>
        <summary class="link small">what an expression may use</summary>
        <table class="plain">
          <tbody>
            <tr v-for="v in all.data.value?.variables" :key="v.name">
              <td class="mono">{{ v.name }}</td>
              <td class="small quiet">{{ v.type }}</td>
              <td class="small">{{ v.meaning }}</td>
            </tr>
          </tbody>
        </table>
      </details>
    </section>
  </div>
</template>

<style scoped>
.split {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 28px;
  align-items: start;
}
.own {
  border-top: 1px solid var(--rule);
  padding: 8px 0;
}
.form {
  display: grid;
  gap: 10px;
  margin: 8px 0 12px;
}
p {
  margin: 2px 0;
}
.rows {
  max-height: 200px;
  overflow: auto;
}
summary {
  cursor: pointer;
}
.wrong {
  color: var(--disproven);
}
@media (max-width: 900px) {
  .split {
    grid-template-columns: 1fr;
  }
}
</style>
