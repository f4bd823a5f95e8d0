<script setup lang="ts">
import { RouterLink } from 'vue-router';
</script>

<template>
  <div class="page">
    <h1>There is nothing at this address.</h1>
    <p><RouterLink to="/">Go to the programmes</RouterLink></p>
  </div>
</template>
