<script lang="ts">
  import { Router } from 'sv-router';
  import './router';
</script>

<Router />
