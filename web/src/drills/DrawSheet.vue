<script setup lang="ts">
import { computed } from 'vue'
import { useServerData } from '@/api/useServerData'
import { count, time } from '@/wording/format'

/** What was drawn at random at a start, and how anybody draws it again. */
const props = defineProps<{ programme: string; name: string; due: string }>()
const emit = defineEmits<{ close: [] }>()

const path = { key: props.programme, due: props.due }
const { data, problem } = useServerData('/api/programmes/{key}/starts/{due}/draw', () => ({
  params: { path },
}))
const list = computed(
  () => `/api/programmes/${encodeURIComponent(props.programme)}/starts/${props.due}/candidates`,
)
</script>

<template>
  <v-dialog :model-value="true" max-width="980" @update:model-value="emit('close')">
    <v-card :title="`How “${name}” was drawn, ${time(due)}`">
      <v-card-text>
        <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
        <v-skeleton-loader v-else-if="!data" type="paragraph" color="background" />
        <template v-else>
          <p v-if="!data.repeats" class="bad" role="alert">
            Drawing it again comes to something else: what was kept of this draw has been changed.
            Its drills say nothing of other points.
          </p>
          <p v-else>
            From {{ count(data.candidates, 'point', 'points') }}; drawn again just now with the same
            result.
            {{
              data.sample
                ? `The ${count(data.sample, 'lowest rank is', 'lowest ranks are')} drawn: each point had the same chance.`
                : 'The point of a resource with the lowest rank is the one that is drawn for it.'
            }}
          </p>
          <dl class="facts small">
            <dt>Seed</dt>
            <dd class="mono">{{ data.seed }}</dd>
            <dt>Digest of the list</dt>
            <dd class="mono">{{ data.digest }}</dd>
            <dt>Digest of what was known before</dt>
            <dd class="mono">{{ data.known }}</dd>
          </dl>
          <p class="small">
            <a :href="list" download="candidates.txt">The list, candidates.txt</a>. With it, and the
            seed in <code>$seed</code>, this prints the ranks in their order:
          </p>
          <pre class="mono small shell">
while IFS= read -r line; do
  printf '%s\t%s\n' "$(printf '%s\n%s' "$seed" "$line" | sha256sum | cut -c 1-64)" "$line"
done &lt; candidates.txt | LC_ALL=C sort</pre>
          <table class="plain">
            <thead>
              <tr>
                <th>Rank</th>
                <th>Resource</th>
                <th>Point</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="r in data.ranks" :key="r.rank">
                <td class="mono" :title="r.rank">{{ r.rank.slice(0, 12) }}…</td>
                <td class="mono">{{ r.resource }}</td>
                <td class="mono">{{ r.point }}</td>
                <td>
                  <b v-if="r.drawn">drawn</b>
                </td>
              </tr>
            </tbody>
          </table>
          <p v-if="data.candidates > data.ranks.length" class="small quiet">
            The first {{ data.ranks.length }} of {{ data.candidates }}.
          </p>
        </template>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="emit('close')">Close</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.bad {
  color: var(--disproven);
}
.facts dt {
  color: var(--quiet);
}
.facts dd {
  margin: 0 0 4px;
  overflow-wrap: anywhere;
}
.shell {
  overflow-x: auto;
  padding: 8px;
  border: 1px solid var(--rule);
}
</style>
