<script setup lang="ts">
// The frame of a loop says in which world it is: at the bench, where all is simulated, or on record.
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import { moment } from '../../widgets/dates.ts'
import { useDoing } from '../../widgets/doing.ts'

const folder = useFolder()
const session = useSession()
const { busy, says, run } = useDoing()
const connect = (on: boolean) => run(() => folder.connectBench(on))
</script>

<template>
  <aside v-if="folder.view?.bench" class="ribbon" aria-label="Bench connected" data-test="bench-ribbon">
    <p>
      <b>Bench connected: practice.</b> What is live here is simulated; what is taken stays outside the record.
      <span class="small">Since {{ moment(folder.view.bench.at) }}, {{ folder.view.bench.by.name }}.</span>
    </p>
    <p v-if="folder.view.device?.simulated" class="small">
      The stand-in on {{ folder.view.device.port }} answers, over its line.
    </p>
    <v-btn
      v-if="session.has('technician')"
      size="large"
      :loading="busy"
      data-test="disconnect-bench"
      @click="connect(false)"
      >Disconnect the bench</v-btn
    >
  </aside>
  <div v-else-if="session.has('technician')" class="quiet small offer">
    <template v-if="folder.view?.device">
      <span v-if="folder.answers === 'device'" data-test="linked">
        On record. Its own device answers, by
        <router-link :to="`/link/${folder.view.device.portId}`">{{ folder.view.device.port }}</router-link>.
      </span>
      <span v-else data-test="linked">
        On record. A stand-in is tied to it: it answers once the bench is connected.
      </span>
    </template>
    <template v-else>On record: nothing here is simulated.</template>
    <button type="button" class="link" :disabled="busy" data-test="connect-bench" @click="connect(true)">
      Connect the bench to practise
    </button>
  </div>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
</template>

<style scoped>
.ribbon {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 4px 16px;
  padding: 6px 0 6px 28px;
  margin-bottom: 8px;
  border-block: 1px solid var(--look);
  background: repeating-linear-gradient(-60deg, var(--look) 0 2px, transparent 2px 9px) left / 20px 100% no-repeat;
}
.ribbon p {
  margin: 0;
}
@media (max-width: 740px) {
  .ribbon {
    flex-wrap: wrap;
  }
}
.offer {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: flex-end;
  gap: 0 8px;
  min-height: 44px;
}
.link {
  min-height: 44px;
}
</style>
