<script setup lang="ts">
import { computed, ref } from 'vue'
import { answerOf, api } from '@/api/client'
import type { DiscoveryView } from '@/api/types'
import { useAttempt } from '@/api/useAttempt'
import { count, duration, time, words } from '@/wording/format'
import { browserZone } from '@/wording/zone'

/** What the names on a store say, put right by a person, and followed from then on. */
const props = defineProps<{ store: string; name: string }>()
const emit = defineEmits<{ close: []; followed: [] }>()

const { attempt: tryOut, busy: looking, problem: unseen } = useAttempt()
const { attempt, busy, problem } = useAttempt()
const zones = [...new Set([browserZone, 'UTC', ...Intl.supportedValuesOf('timeZone')])]
const KINDS = [
  'file-share',
  'database',
  'virtual-machine',
  'physical-server',
  'volume',
  'container-application',
  'directory',
  'object-storage',
  'mail-store',
].map((value) => ({ value, title: words(value) }))
const FORMS = ['full', 'incremental', 'differential', 'snapshot'].map((value) => ({
  value,
  title: words(value),
}))

interface Line {
  used: boolean
  pattern: string
  kind: string
  form: string
  format?: string
  was?: DiscoveryView['series'][number]
}

const found = ref<DiscoveryView>()
const lines = ref<Line[]>([])
const zone = ref('UTC')
const feed = ref(`${props.name} files`)
const used = computed(() => lines.value.filter((l) => l.used && l.pattern.trim()))

async function look(patterns: string[] = []) {
  await tryOut(async () => {
    const answer = await answerOf(
      api.POST('/api/discoveries', {
        params: { query: { store: props.store } },
        body: { zone: zone.value, patterns },
      }),
    )
    found.value = answer
    const before = new Map(lines.value.map((l) => [l.pattern, l]))
    const fresh = answer.series.map((s) => ({
      used: true,
      pattern: s.pattern,
      kind: before.get(s.pattern)?.kind ?? s.kind,
      form: before.get(s.pattern)?.form ?? s.holds ?? 'full',
      format: s.format,
      was: s,
    }))
    const gone = lines.value.filter(
      (l) => patterns.includes(l.pattern) && !fresh.some((f) => f.pattern === l.pattern),
    )
    lines.value = [...fresh, ...gone.map((l) => ({ ...l, was: undefined }))]
    if (answer.kept && !patterns.length) feed.value = answer.kept.feed
  })
}

const follow = () =>
  attempt(async () => {
    await answerOf(
      api.PUT('/api/store-feeds', {
        params: { query: { store: props.store } },
        body: {
          feed: feed.value.trim(),
          zone: zone.value,
          patterns: used.value.map((l) => ({
            pattern: l.pattern.trim(),
            kind: l.kind as never,
            form: l.form as never,
            format: l.format,
          })),
        },
      }),
    )
    emit('followed')
  })

void look()
</script>

<template>
  <section class="sheet" :aria-label="`What lies on ${name}`">
    <p v-if="unseen" class="bad" role="alert">{{ unseen }}</p>
    <p v-if="!found && looking" role="status">Reading names on {{ name }} …</p>
    <template v-if="found">
      <p class="lead">
        {{ count(found.looked, 'file', 'files') }} on {{ name }} looked at<template
          v-if="found.more"
        >
          (there are more)</template
        >: {{ count(found.series.length, 'way', 'ways') }} of naming<template v-if="found.unfit"
          >, {{ found.unfit }} fit none</template
        >. Only names were read, and of each way the beginning of the newest.
      </p>
      <p v-if="!found.series.length" class="quiet">
        No name says whose backup it is and of when. Write a pattern below, such as
        <span class="mono">{resource}/{yyyy-MM-dd}.tar.gz</span>.
      </p>
      <div v-for="(l, i) in lines" :key="i" class="way">
        <v-checkbox
          v-model="l.used"
          :aria-label="`Follow ${l.pattern}`"
          :title="l.used ? 'Followed' : 'Left out'"
        />
        <div class="what">
          <v-text-field
            v-model="l.pattern"
            :aria-label="`Pattern ${i + 1}`"
            class="mono"
            hide-details
          />
          <p v-if="l.was" class="small">
            <b>{{ count(l.was.resources.length, 'resource', 'resources') }}</b>:
            <span class="mono">{{ l.was.resources.slice(0, 6).join(', ') }}</span><template
              v-if="l.was.resources.length > 6"
              >, {{ l.was.resources.length - 6 }} more</template
            >.
            {{
              l.was.ofFolders
                ? count(l.was.files, 'whole folder', 'whole folders')
                : count(l.was.files, 'file', 'files')
            }}<template v-if="l.was.everyMs">, one every {{ duration(l.was.everyMs) }}</template
            >, {{ time(l.was.first) }} to {{ time(l.was.last) }};
            {{ l.was.timeOfName ? 'times by the names' : 'times by the store' }},
            {{ l.was.format ?? 'a format that is not known here'
            }}<template v-if="l.was.begins && l.was.begins !== l.was.format"
              >, though it begins like {{ l.was.begins }}</template
            ><template v-if="l.was.holds"
              >{{ l.was.holds === 'full' ? ', stands alone' : ', rests on another' }} by what it
              holds</template
            >. Newest:
            <span class="mono quiet">{{ l.was.sample[0] }}</span>
          </p>
          <p v-else class="small quiet">Fits nothing that was looked at.</p>
        </div>
        <v-select v-model="l.kind" :items="KINDS" label="They are" class="kind" hide-details />
        <v-select
          v-if="!l.was?.formOfName"
          v-model="l.form"
          :items="FORMS"
          :label="l.was?.holds ? 'Where it does not tell' : 'Each is'"
          class="kind"
          hide-details
        />
        <span v-else class="kind small quiet">form by its name</span>
      </div>
      <p v-if="found.rest.length" class="small quiet">
        Fits none: <span class="mono">{{ found.rest.join(', ') }}</span>
        {{ found.unfit > found.rest.length ? 'and others' : '' }}
      </p>
      <p v-if="found.lists" class="small quiet">
        {{ count(found.lists, 'file holds', 'files hold') }} checksums of others.
      </p>
      <div class="row">
        <v-btn
          @click="
            lines.push({ used: true, pattern: '{resource}', kind: 'file-share', form: 'full' })
          "
          >Write another</v-btn
        >
        <v-btn :loading="looking" @click="look(used.map((l) => l.pattern.trim()))">Try these</v-btn>
        <v-combobox v-model="zone" :items="zones" label="Times in names are of" class="zone" />
        <v-text-field v-model="feed" label="Feed" class="zone" maxlength="64" />
      </div>
      <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
      <div class="row">
        <v-btn
          color="primary"
          variant="flat"
          :loading="busy"
          :disabled="!used.length || !feed.trim()"
          :title="used.length ? undefined : 'Choose or write a pattern first'"
          @click="follow"
          >Follow {{ name }} from now on</v-btn
        >
        <v-btn @click="emit('close')">Close</v-btn>
        <span class="small quiet"
          >It is listed once a day; what came, and what was deleted, is known by that.</span
        >
      </div>
    </template>
  </section>
</template>

<style scoped>
.sheet {
  padding: 8px 0 14px;
}
.lead {
  margin: 0 0 8px;
}
.bad {
  color: var(--disproven);
}
.way {
  display: grid;
  grid-template-columns: 40px minmax(0, 1fr) 190px 150px;
  gap: 12px;
  align-items: start;
  padding: 8px 0;
  border-top: 1px solid var(--rule);
}
.what p {
  margin: 3px 0 0;
  overflow-wrap: anywhere;
}
.row {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-top: 10px;
  flex-wrap: wrap;
}
.zone {
  max-width: 260px;
}
@media (max-width: 900px) {
  .way {
    grid-template-columns: 40px minmax(0, 1fr);
  }
}
</style>
