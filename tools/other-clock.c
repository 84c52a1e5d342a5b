/*
 * Lends processes another clock, for tests: what they take for the time of day is moved by the seconds that the first
 * eight bytes of the file OTHER_CLOCK hold, read anew each time. The clock that only counts on stays as it is.
 * Preloaded (LD_PRELOAD); it takes no lock, so that processes may be killed at any moment.
 */
#define _GNU_SOURCE
#include <fcntl.h>
#include <stdint.h>
#include <stdlib.h>
#include <sys/mman.h>
#include <sys/syscall.h>
#include <sys/time.h>
#include <time.h>
#include <unistd.h>

static const volatile int64_t *moved;

__attribute__((constructor)) static void find(void) {
  const char *path = getenv("OTHER_CLOCK");
  int file = path ? open(path, O_RDONLY | O_CLOEXEC) : -1;
  if (file < 0) return;
  void *at = mmap(NULL, sizeof *moved, PROT_READ, MAP_SHARED, file, 0);
  close(file);
  if (at != MAP_FAILED) moved = at;
}

int clock_gettime(clockid_t which, struct timespec *at) {
  int failed = (int)syscall(SYS_clock_gettime, which, at);
  if (!failed && moved && (which == CLOCK_REALTIME || which == CLOCK_REALTIME_COARSE)) at->tv_sec += *moved;
  return failed;
}

int gettimeofday(struct timeval *restrict at, void *restrict zone) {
  struct timespec now;
  (void)zone;
  int failed = clock_gettime(CLOCK_REALTIME, &now);
  if (!failed) *at = (struct timeval){.tv_sec = now.tv_sec, .tv_usec = now.tv_nsec / 1000};
  return failed;
}

time_t time(time_t *at) {
  struct timespec now;
  if (clock_gettime(CLOCK_REALTIME, &now)) return -1;
  if (at) *at = now.tv_sec;
  return now.tv_sec;
}
