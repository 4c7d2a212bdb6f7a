#pragma once
#define ATOMIC_RESTORESTATE 1
#define ATOMIC_FORCEON 0
#define ATOMIC_BLOCK(how) for (bool once = (cli(), true); once; once = (sei(), false))
