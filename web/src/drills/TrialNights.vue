<script setup lang="ts">
import type { ForecastView } from '@/api/types'
import GapList from './GapList.vue'
import NightsChart from './NightsChart.vue'

/** The coming nights with what is only tried, beside the form that says it; until they are known, that they come. */
defineProps<{ trial?: ForecastView; now: number }>()
</script>

<template>
  <h2>The coming 90 nights with it</h2>
  <template v-if="trial">
    <NightsChart :nights="trial.nights" :gaps="trial.gaps" />
    <p>{{ trial.sentence }}</p>
    <GapList :gaps="trial.gaps" :now="now" :in-all="trial.gapsInAll" />
  </template>
  <v-skeleton-loader v-else type="paragraph" color="background" />
</template>
