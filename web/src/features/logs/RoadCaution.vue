<template>
  <p class="small caution">
    On a closed road or track only, never at speed on public roads; a second person reads the laptop. The law of the place decides.
  </p>
</template>

<style scoped>
.caution {
  margin: 0.2rem 0;
  color: var(--amber);
}
</style>
