<template>
  <h1 class="mt-6">Nothing is here</h1>
  <p>This address leads nowhere. <router-link to="/loops">Go to the loops</router-link>.</p>
</template>
