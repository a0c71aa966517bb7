<script setup lang="ts">
// Switch points of a measured value: relays of the controller, what each drives, what runs when all is well and when
// it is not.
import FailSafeTable from '../../switching/FailSafeTable.vue'
import TripSimulation from '../../switching/TripSimulation.vue'
import { useTrips } from '../../switching/trips.ts'
import StagePage from './StagePage.vue'

const trips = useTrips()
const CAUTION =
  'A changed set point moves pumps and valves at once: operations told, drives isolated. A safety trip is never made ' +
  'with an ordinary controller’s relay: the site’s functional-safety procedure decides.'
const { trips: entered, unit, lost } = trips
</script>

<template>
  <StagePage stage="switch-point" title="Switch points" :caution="CAUTION">
    <template #drawing><TripSimulation :trips="trips" /></template>
    <template #more><FailSafeTable :trips="entered" :unit="unit" :lost="lost" /></template>
  </StagePage>
</template>
