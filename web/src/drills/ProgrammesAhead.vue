<script setup lang="ts">
import { computed, ref } from 'vue'
import Moment from '@/frame/Moment.vue'
import { answerOf, api } from '@/api/client'
import type { ProgrammeCalendar, ProgrammeView, StartTaken } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { useServerData } from '@/api/useServerData'
import { useAsAt } from '@/frame/useAsAt'
import { useMay } from '@/people/useMay'
import { count, relative, time } from '@/wording/format'
import CapacityForm from './CapacityForm.vue'
import CureList from './CureList.vue'
import DrawSheet from './DrawSheet.vue'
import GapList from './GapList.vue'
import NightsChart from './NightsChart.vue'
import ProgrammeForm from './ProgrammeForm.vue'
import StartList from './StartList.vue'

/** What starts by itself: the coming nights, what lapses in them and what would help, and what became of the last. */
const props = defineProps<{ calendar?: ProgrammeCalendar; now: number; mayWork: boolean }>()
const emit = defineEmits<{ changed: [] }>()

const { when, lookingBack } = useAsAt()
const { whyNotWork } = useMay()
const { attempt, problem } = useAttempt()
const forecast = useServerData('/api/forecast', () => ({ params: { query: when.value } }))
const capacity = useServerData('/api/drill-capacity')
const planning = ref<{ start?: ProgrammeView }>()
const measuring = ref(false)
/** The start whose draw is looked at. */
const drawOf = ref<StartTaken>()

const goOn = computed(() => {
  const says = capacity.data.value?.says
  if (!says) return ''
  const hours = says.hours ? `${says.hours} ${says.zone}` : 'all day'
  return `${hours}, ${says.atOnce} at once${says.atOncePerStore ? `, ${says.atOncePerStore} from one store` : ''}`
})

function changed() {
  emit('changed')
  void forecast.refresh()
  void capacity.refresh()
}

function endProgramme(key: string) {
  return attempt(async () => {
    await answerOf(api.DELETE('/api/programmes/{key}', { params: { path: { key: key } } }))
    changed()
  })
}

function nameOf(key: string): string {
  return props.calendar?.programmes.find((p) => p.key === key)?.says.name ?? key
}

function nextOf(key: string): string {
  const next = props.calendar?.ahead.find((a) => a.programme === key)
  return next ? `next ${time(next.due)}, ${relative(next.due, props.now)}` : 'never starts again'
}

function rhythm(p: ProgrammeView): string {
  const hours = p.says.when?.hours ? ` · only ${p.says.when.hours}` : ''
  return p.says.when?.rule
    ? `${p.says.when.rule} ${p.says.when.zone ?? ''} · may be late by ${p.says.when.startWindow ?? ''}${hours}`
    : `as needed${hours}`
}
</script>

<template>
  <div>
    <p v-if="problem || forecast.problem.value" class="wrong" role="alert">
      {{ problem || forecast.problem.value }}
    </p>
    <template v-if="forecast.data.value">
      <p class="lead said">{{ forecast.data.value.sentence }}</p>
      <NightsChart :nights="forecast.data.value.nights" :gaps="forecast.data.value.gaps" />
      <p v-if="capacity.data.value" class="small">
        Drills go on {{ goOn }}.
        <button
          type="button"
          class="link"
          :disabled="!mayWork"
          :title="whyNotWork"
          @click="measuring = true"
        >
          change what there is to drill with
        </button>
      </p>
    </template>
    <v-skeleton-loader v-else type="image" height="150" color="background" />

    <div class="columns">
      <div>
        <h2>Proofs that lapse or are missing</h2>
        <GapList
          v-if="forecast.data.value"
          :gaps="forecast.data.value.gaps"
          :now="now"
          :in-all="forecast.data.value.gapsInAll"
        />
        <template v-if="!lookingBack && forecast.data.value?.gaps.length">
          <CureList :of="forecast.data.value.sentence" />
        </template>
        <template v-if="forecast.data.value?.past.length">
          <h2 class="later">The last nights, foretold and as they were</h2>
          <p v-for="n in forecast.data.value.past" :key="n.opens" class="small night">
            <span class="mono"><Moment :at="n.opens" /></span>
            {{ n.begun.length }} as foretold<template v-if="n.notBegun.length"
              >; <b>{{ n.notBegun.length }} did not begin</b>:
              {{ n.notBegun.slice(0, 5).join(', ') }}</template
            ><template v-if="n.unforeseen.length"
              >; <b>{{ n.unforeseen.length }} not foretold</b>:
              {{ n.unforeseen.slice(0, 5).join(', ') }}</template
            >
          </p>
        </template>
      </div>
      <div>
        <div class="row-between">
          <h2>Programmes</h2>
          <v-btn :disabled="!mayWork" :title="whyNotWork" @click="planning = {}"
            >New programme</v-btn
          >
        </div>
        <p v-if="calendar && !calendar.programmes.length" class="empty quiet">
          Nothing is drilled by itself. A programme drills what matches it: as needed, so that no
          proof lapses, or as often as you say.
        </p>
        <article v-for="p in calendar?.programmes" :key="p.key" class="block programme">
          <div class="row-between">
            <b>{{ p.says.name }}</b>
            <span v-if="mayWork" class="row">
              <v-btn @click="planning = { start: p }">Change</v-btn>
              <v-btn @click="endProgramme(p.key)">End</v-btn>
            </span>
          </div>
          <p class="small">
            {{ p.words.scope }} ·
            <b v-if="!p.resources.length" class="wrong">matches nothing that has a point</b>
            <template v-else>{{ count(p.resources.length, 'resource', 'resources') }}</template> ·
            shows {{ p.words.showing }} · {{ p.words.point }} · {{ p.words.copy }}
          </p>
          <p class="small quiet">
            <span class="mono">{{ rhythm(p) }}</span> · {{ nextOf(p.key) }}
          </p>
        </article>
        <StartList
          v-if="calendar"
          :starts="calendar.starts"
          :name-of="nameOf"
          @draw="drawOf = $event"
        />
      </div>
    </div>
    <DrawSheet
      v-if="drawOf"
      :programme="drawOf.programme"
      :name="nameOf(drawOf.programme)"
      :due="drawOf.due"
      @close="drawOf = undefined"
    />
    <ProgrammeForm
      v-if="planning"
      :start="planning.start"
      :now="now"
      @close="planning = undefined"
      @saved="changed"
    />
    <CapacityForm
      v-if="measuring && capacity.data.value"
      :start="capacity.data.value"
      :now="now"
      @close="measuring = false"
      @saved="changed"
    />
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 36px;
  margin-top: 14px;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
.said {
  margin: 10px 0 8px;
}
.programme p,
.block p,
.night {
  margin: 2px 0;
}
.later {
  margin-top: 18px;
}
.empty {
  padding: 18px 0;
}
.wrong {
  color: var(--disproven);
}
</style>
