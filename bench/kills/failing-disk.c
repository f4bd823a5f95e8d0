// What a dying or read-only disk does, for the kill test alone: while GEZEIT_FAILING_DISK.failing-sync is there, no fsync succeeds; while
// GEZEIT_FAILING_DISK.read-only is there, nothing is written into a file.
#define _GNU_SOURCE
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <sys/stat.h>
#include <sys/syscall.h>
#include <sys/types.h>
#include <unistd.h>

static int is_on(const char *what) {
  const char *base = getenv("GEZEIT_FAILING_DISK");
  char name[512];
  if (base == NULL) return 0;
  snprintf(name, sizeof name, "%s.%s", base, what);
  return access(name, F_OK) == 0;
}

static int is_file(int handle) {
  struct stat about;
  return fstat(handle, &about) == 0 && S_ISREG(about.st_mode);
}

int fsync(int handle) {
  if (is_on("failing-sync")) return errno = EIO, -1;
  return (int)syscall(SYS_fsync, handle);
}

int fdatasync(int handle) {
  if (is_on("failing-sync")) return errno = EIO, -1;
  return (int)syscall(SYS_fdatasync, handle);
}

ssize_t pwrite64(int handle, const void *bytes, size_t count, off64_t at) {
  if (is_on("read-only") && is_file(handle)) return errno = EROFS, -1;
  return syscall(SYS_pwrite64, handle, bytes, count, at);
}

ssize_t pwrite(int handle, const void *bytes, size_t count, off_t at) {
  return pwrite64(handle, bytes, count, at);
}
