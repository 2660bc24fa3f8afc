<template>
  <div class="page stack">
    <h1>There is nothing at this address</h1>
    <p>
      The loop may have another tag now. <router-link to="/loops">Go to the loops</router-link>, or search
      with the key <kbd>/</kbd>.
    </p>
  </div>
</template>
