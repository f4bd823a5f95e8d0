import { z } from 'zod';

// Zod would try to compile its checks to functions, which the pages' security policy forbids.
z.config({ jitless: true });

export { z };
