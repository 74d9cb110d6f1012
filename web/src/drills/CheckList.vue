<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api } from '@/api/client'
import type { CheckKind, CheckView, TrialAnswer } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'

/** The checks that are asked of what is restored, with a trial on what is held of an earlier run. */
const props = defineProps<{
  /** What can be asked after the method that is chosen. */
  aspects: string[]
  /** The run whose restored data is still there; none to try on if empty. */
  triedOn?: string
}>()
const checks = defineModel<CheckView[]>({ required: true })
const keep = defineModel<boolean>('keep', { required: true })

const { attempt, busy: trying, problem } = useAttempt()
const { data: kinds } = useServerData('/api/check-types')
const answers = ref<TrialAnswer[]>([])

const offered = computed(() =>
  (kinds.value ?? []).filter((k) =>
    k.aspects.some((a) => a === 'outside' || props.aspects.includes(a)),
  ),
)

function kind(check: CheckView): CheckKind | undefined {
  return kinds.value?.find((k) => k.type === check.type)
}

function add() {
  const first = offered.value[0]
  if (first) checks.value = [...checks.value, { type: first.type, subject: '', expected: '' }]
}

function remove(index: number) {
  checks.value = checks.value.filter((_, i) => i !== index)
}

watch(checks, () => (answers.value = []), { deep: true })

async function tryOut() {
  answers.value = []
  const run = props.triedOn
  if (!run) return
  await attempt(async () => {
    answers.value = await answerOf(
      api.POST('/api/check-trials', { body: { run, checks: checks.value } }),
    )
  })
}
</script>

<template>
  <fieldset>
    <legend class="small quiet">Checks: asked of what was restored, all must pass</legend>
    <div v-for="(c, i) in checks" :key="i" class="check">
      <v-select
        v-model="c.type"
        :items="offered.map((k) => ({ title: k.words, value: k.type }))"
        label="Check that"
      />
      <v-text-field v-model="c.subject" :label="kind(c)?.subject ?? 'what'" class="mono" />
      <v-text-field v-if="kind(c)?.expected" v-model="c.expected" :label="kind(c)?.expected" />
      <span v-else />
      <v-btn :aria-label="`Remove check ${i + 1}`" @click="remove(i)">×</v-btn>
      <p
        v-if="answers[i]"
        class="small answer"
        :class="answers[i]?.passed ? 'good' : answers[i]?.judged ? 'bad' : ''"
      >
        {{ answers[i]?.passed ? '✓ passes' : answers[i]?.judged ? '✕ fails' : 'not judged' }}:
        {{ answers[i]?.sentence }}
      </p>
    </div>
    <div class="row">
      <v-btn :disabled="!offered.length" @click="add">Add a check</v-btn>
      <v-btn
        v-if="checks.length"
        :disabled="!triedOn"
        :loading="trying"
        :title="
          triedOn
            ? undefined
            : 'Nothing that was restored is held: drill once with holding, then try here'
        "
        @click="tryOut"
        >Try on what is held</v-btn
      >
      <v-checkbox v-model="keep" label="keep them for the next drills of this resource" />
    </div>
    <p v-if="problem" class="small bad" role="alert">{{ problem }}</p>
    <slot />
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 1px solid var(--rule);
  padding: 8px 10px;
}
.check {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr) minmax(0, 4fr) auto;
  gap: 8px;
  align-items: center;
  margin-bottom: 8px;
}
.answer {
  grid-column: 1 / -1;
}
p {
  margin: 0;
  overflow-wrap: anywhere;
}
.good {
  color: var(--proven);
}
.bad {
  color: var(--disproven);
}
</style>
