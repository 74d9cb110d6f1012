<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answerOf, api, sentenceOf } from '@/api/client'
import type { PlanStep } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import DrillForm from '@/drills/DrillForm.vue'
import ProgrammeForm from '@/drills/ProgrammeForm.vue'
import { useAsAt } from '@/frame/useAsAt'
import { useMay } from '@/people/useMay'
import { useSession } from '@/people/session'
import { now } from '@/wording/clock'
import { count } from '@/wording/format'
import CoverForm from './CoverForm.vue'
import PlanLine from './PlanLine.vue'

/** What to do first: causes with what mending each comes to, in the order of what gains most. */
const emit = defineEmits<{ show: [finding: string] }>()

const { when, query, lookingBack } = useAsAt()
const session = useSession()
const router = useRouter()
const { whyNotWork } = useMay()
const plan = useServerData('/api/plan', () => ({ params: { query: when.value } }))
const { attempt, problem } = useAttempt()
const said = ref('')
const covering = ref<string[]>()
const drilling = ref<string>()
const opening = ref<string[]>()
const mayAct = computed(() => session.mayWork && !lookingBack.value)

/** The same instant for what is saved. */
const asked = computed(() => new URLSearchParams(when.value).toString())

let again = 0
watch(plan.data, (view) => {
  window.clearTimeout(again)
  if (view && !view.complete && !view.problem) {
    again = window.setTimeout(() => void plan.refresh(), 600)
  }
})
onBeforeUnmount(() => window.clearTimeout(again))

/** The instant that is looked at goes along. */
function go(path: string, part?: string) {
  void router.push({ path, query: { ...query.value, part } })
}

function act(step: PlanStep) {
  const keys = step.resources.map((r) => r.key)
  said.value = ''
  if (step.remedy === 'cover') covering.value = keys
  else if (step.remedy === 'programme') opening.value = keys
  else if (step.remedy === 'drill' && keys.length === 1) drilling.value = keys[0]
  else if (step.remedy === 'drill') void drillAll(step)
  else if (step.remedy === 'screen') go('/drills')
  else if (step.remedy === 'policy') go('/criteria', 'policies')
  else if (step.remedy === 'exception') go('/criteria', 'exceptions')
  else if (step.remedy === 'feed' || step.remedy === 'owner') go('/feeds')
  else if (step.behind[0]) emit('show', step.behind[0].key)
}

/** Each is put into the queue by itself: one that can't be drilled holds up no other. */
const drillAll = (step: PlanStep) =>
  attempt(async () => {
    const refused: string[] = []
    for (const resource of step.resources) {
      try {
        await answerOf(
          api.POST('/api/drill-runs', {
            body: { resource: resource.key, reason: 'the plan: first things first' },
          }),
        )
      } catch (e) {
        refused.push(`${resource.name}: ${sentenceOf(e)}`)
      }
    }
    const begun = step.resources.length - refused.length
    said.value = `${count(begun, 'drill is', 'drills are')} in the queue${refused.length ? `; not drilled: ${refused.join(' ')}` : ''}`
  })

const stop = () => attempt(async () => void (await answerOf(api.DELETE('/api/plan'))))

function done(sentence?: string) {
  covering.value = opening.value = drilling.value = undefined
  said.value = sentence ?? ''
  void plan.refresh()
}
</script>

<template>
  <div class="plan">
    <p v-if="problem || plan.problem.value" class="wrong" role="alert">
      {{ problem || plan.problem.value }}
    </p>
    <p v-if="said" role="status" class="small">{{ said }}</p>
    <template v-if="plan.data.value">
      <p v-if="plan.data.value.problem" class="wrong" role="alert">
        {{ plan.data.value.problem }}.
        <v-btn @click="plan.refresh">Try again</v-btn>
      </p>
      <div v-else-if="!plan.data.value.complete" class="row">
        <span
          >Trying what each would come to: {{ plan.data.value.done }} of
          {{ plan.data.value.all || '…' }}</span
        >
        <v-btn @click="stop">Stop</v-btn>
      </div>
      <template v-else>
        <div class="row-between">
          <p class="small quiet">
            {{ count(plan.data.value.causes, 'cause', 'causes') }},
            {{ count(plan.data.value.findings, 'finding', 'findings') }} behind them. In the order
            of what gains most for each hour of drilling, given that what stands before is done.
          </p>
          <span class="row">
            <v-btn :href="`/api/plan/table?${asked}`" download="plan.csv">Save as CSV</v-btn>
            <v-btn :href="`/api/plan/calendar?${asked}`" download="plan.ics"
              >Save as calendar</v-btn
            >
          </span>
        </div>
        <ol class="steps">
          <PlanLine
            v-for="(s, i) in plan.data.value.steps"
            :key="s.key"
            :step="s"
            :place="i + 1"
            :may-act="mayAct"
            :why-not="whyNotWork"
            @act="act(s)"
            @show="emit('show', $event)"
          />
        </ol>
        <p v-if="!plan.data.value.steps.length" class="empty quiet">
          Nothing is open: there is nothing to do.
        </p>
      </template>
    </template>
    <v-skeleton-loader
      v-else-if="!plan.problem.value"
      type="list-item-two-line@6"
      color="background"
    />
    <CoverForm v-if="covering" :resources="covering" @close="covering = undefined" @done="done" />
    <DrillForm v-if="drilling" :start="{ resource: drilling }" @close="done()" />
    <ProgrammeForm
      v-if="opening"
      :resources="opening"
      :now="now()"
      @close="opening = undefined"
      @saved="done('The programme has begun.')"
    />
  </div>
</template>

<style scoped>
.plan {
  padding: 10px 20px;
  overflow: auto;
}
.row a {
  text-decoration: none;
}
.steps {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
.wrong {
  color: var(--disproven);
}
.empty {
  padding: 18px 0;
}
</style>
