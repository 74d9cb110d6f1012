<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api, formOf } from '@/api/client'
import type { Verification } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import PackChecks from './PackChecks.vue'
import { finished } from './packTask'

/** A pack of whoever is dropped here and checked; nothing of it is kept. */
const MOST = 100_000_000
const over = ref(false)
const name = ref('')
const checked = ref<Verification>()
const whole = computed(() => checked.value?.checks.every((c) => c.passed))
const input = ref<HTMLInputElement>()
const { attempt, busy, problem } = useAttempt()

const take = (list: FileList | null | undefined) =>
  attempt(async () => {
    const files = [...(list ?? [])]
    const pack = files.find((f) => f.name.toLowerCase().endsWith('.zip'))
    const head = files.find((f) => f.name.toLowerCase().endsWith('.json'))
    checked.value = undefined
    if (!files.length) return
    if (!pack || files.length > (head ? 2 : 1)) {
      throw new Error('Drop one pack (a zip), and with it at most the head of a ledger (a json).')
    }
    if (pack.size > MOST) {
      throw new Error(
        `${pack.name} has more than the 100 MB that the page takes. ./hard-proof verify has no limit.`,
      )
    }
    name.value = pack.name
    const form = new FormData()
    form.append('pack', pack)
    if (head) form.append('head', head)
    const begun = await answerOf(api.POST('/api/packs/verification', formOf(form)))
    checked.value = (await finished(begun)).verification ?? undefined
  })

function drop(event: DragEvent) {
  over.value = false
  void take(event.dataTransfer?.files)
}

function choose() {
  void take(input.value?.files)
  if (input.value) input.value.value = ''
}
</script>

<template>
  <section
    class="drop"
    :class="{ over }"
    aria-label="Verify a pack"
    @dragover.prevent="over = true"
    @dragleave="over = false"
    @drop.prevent="drop"
  >
    <span
      >Drop a pack that you were given, with the head of a ledger that you kept if you have one,
      or</span
    >
    <v-btn size="small" :loading="busy" @click="input?.click()">choose files</v-btn>
    <input
      ref="input"
      class="visually-hidden"
      type="file"
      multiple
      accept=".zip,.json"
      aria-label="A pack to verify"
      tabindex="-1"
      @change="choose"
    />
    <span class="small quiet">It is checked as by the command line, and not kept.</span>
    <p v-if="busy" class="small" role="status">Making {{ name }} again from its facts …</p>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <div v-if="checked" role="status">
      <p>
        <b :class="whole ? 'good' : 'wrong'">{{
          whole
            ? `${name} is whole, and its verdicts follow from its facts.`
            : `${name} must not be relied on. Ask whoever issued it for the original.`
        }}</b>
      </p>
      <PackChecks :checks="checked.checks" />
    </div>
  </section>
</template>

<style scoped>
.drop {
  border: 1px dashed var(--rule-strong);
  padding: 10px 14px;
  margin: 14px 0 0;
}
.drop > * + * {
  margin-left: 10px;
}
.drop > p,
.drop > div {
  margin: 6px 0 0;
}
.over {
  background: var(--selected);
}
p {
  margin: 6px 0 0;
}
.good {
  color: var(--proven);
}
.wrong {
  color: var(--disproven);
}
</style>
