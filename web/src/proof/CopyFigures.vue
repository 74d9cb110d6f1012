<script setup lang="ts">
import { computed } from 'vue'
import type { CopyFigure } from '@/api/types'

/** The five figures of the copy rule; one that is not enough is struck. */
const props = defineProps<{ figures?: CopyFigure[] }>()

const NAMES = ['copies', 'media', 'off-site', 'offline or locked', 'errors']

const said = computed(() =>
  (props.figures ?? [])
    .map((f, i) => `${NAMES[i]} ${f.have}${f.met ? '' : `, ${f.want} demanded`}`)
    .join('; '),
)
</script>

<template>
  <span v-if="figures" class="figures mono" role="img" :aria-label="said" :title="said">
    <template v-for="(f, i) in figures" :key="i"
      ><span v-if="i" class="dot">·</span
      ><span :class="{ short: !f.met }">{{ f.have }}</span></template
    >
  </span>
  <span v-else class="quiet">–</span>
</template>

<style scoped>
.dot {
  color: var(--quiet);
}
.short {
  color: var(--disproven);
  font-weight: 500;
  text-decoration: line-through;
}
</style>
