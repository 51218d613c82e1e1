/*
 * Reads RTP packets: many per system call, consecutive ones joined, 24-bit samples as integers. It only saves time. What a packet means
 * is decided in Ruby, and each function has its reference there: Formats::RtpRuns and Audio::Pcm24.
 */
#include <ruby.h>
#include <errno.h>
#include <stdint.h>
#include <string.h>
#include <sys/socket.h>

#define HEADER 12
#define LARGEST 8192 /* longer datagrams are cut, as Runtime::PacketSocket does */
#define MOST 32

/* A stretch of packets that follow on each other, while it grows. */
struct run {
  uint8_t type;
  uint16_t sequence; /* of the last packet */
  uint32_t timestamp; /* of the last packet */
  uint32_t source;
  size_t size; /* bytes of each payload */
  uint32_t frames; /* of each payload */
  VALUE payload; /* Qnil: none has begun */
};

static uint32_t read32(const uint8_t *at) {
  return (uint32_t)at[0] << 24 | (uint32_t)at[1] << 16 | (uint32_t)at[2] << 8 | at[3];
}

/* A plain packet with whole frames; everything else is left to Ruby as it came. */
static int plain(const uint8_t *bytes, size_t length, size_t frame_bytes) {
  return length > HEADER && bytes[0] == 0x80 && (length - HEADER) % frame_bytes == 0;
}

static int follows(const struct run *run, const uint8_t *bytes, size_t length) {
  return run->payload != Qnil && run->size == length - HEADER && run->type == (bytes[1] & 0x7f) && run->source == read32(bytes + 8) &&
         (uint16_t)(run->sequence + 1) == (bytes[2] << 8 | bytes[3]) && run->timestamp + run->frames == read32(bytes + 4);
}

static void add(VALUE list, struct run *run, const uint8_t *bytes, size_t length, size_t frame_bytes, VALUE run_class, size_t room) {
  if (!plain(bytes, length, frame_bytes)) {
    run->payload = Qnil;
    rb_ary_push(list, rb_str_new((const char *)bytes, (long)length));
    return;
  }
  if (!follows(run, bytes, length)) {
    run->type = bytes[1] & 0x7f;
    run->source = read32(bytes + 8);
    run->size = length - HEADER;
    run->frames = (uint32_t)(run->size / frame_bytes);
    run->payload = rb_str_buf_new((long)(run->size * room));
    rb_ary_push(list, rb_struct_new(run_class, INT2FIX(run->type), INT2FIX(bytes[2] << 8 | bytes[3]), UINT2NUM(read32(bytes + 4)),
                                    UINT2NUM(run->source), LONG2FIX((long)run->size), run->payload));
  }
  run->sequence = (uint16_t)(bytes[2] << 8 | bytes[3]);
  run->timestamp = read32(bytes + 4);
  rb_str_cat(run->payload, (const char *)bytes + HEADER, (long)run->size);
}

static size_t checked_frame_bytes(VALUE value) {
  long bytes = NUM2LONG(value);
  if (bytes < 1) rb_raise(rb_eArgError, "a frame has at least one byte");
  return (size_t)bytes;
}

/* runs(datagrams, frame_bytes, run_class) -> [run or String, ...] */
static VALUE runs(VALUE self, VALUE datagrams, VALUE frame_bytes_value, VALUE run_class) {
  size_t frame_bytes = checked_frame_bytes(frame_bytes_value);
  Check_Type(datagrams, T_ARRAY);
  VALUE list = rb_ary_new();
  struct run run = { .payload = Qnil };
  for (long at = 0; at < RARRAY_LEN(datagrams); at++) {
    VALUE one = rb_ary_entry(datagrams, at);
    StringValue(one);
    add(list, &run, (const uint8_t *)RSTRING_PTR(one), (size_t)RSTRING_LEN(one), frame_bytes, run_class, 1);
    RB_GC_GUARD(one);
  }
  return list;
}

/* receive(descriptor, most, frame_bytes, run_class) -> [run or String, ...]; empty when nothing waits. Does not wait itself. */
static VALUE receive(VALUE self, VALUE descriptor, VALUE most, VALUE frame_bytes_value, VALUE run_class) {
  uint8_t buffers[MOST][LARGEST];
  struct iovec parts[MOST];
  struct mmsghdr messages[MOST];
  size_t frame_bytes = checked_frame_bytes(frame_bytes_value);
  int wanted = NUM2INT(most);
  if (wanted < 1 || wanted > MOST) rb_raise(rb_eArgError, "1 to %d packets at once", MOST);

  memset(messages, 0, sizeof(messages));
  for (int at = 0; at < wanted; at++) {
    parts[at].iov_base = buffers[at];
    parts[at].iov_len = LARGEST;
    messages[at].msg_hdr.msg_iov = &parts[at];
    messages[at].msg_hdr.msg_iovlen = 1;
  }
  VALUE list = rb_ary_new();
  int came = recvmmsg(NUM2INT(descriptor), messages, (unsigned)wanted, MSG_DONTWAIT, NULL);
  if (came < 0) {
    if (errno == EAGAIN || errno == EWOULDBLOCK || errno == EINTR) return list;
    rb_sys_fail("recvmmsg");
  }
  struct run run = { .payload = Qnil };
  for (int at = 0; at < came; at++)
    add(list, &run, buffers[at], messages[at].msg_len > LARGEST ? LARGEST : messages[at].msg_len, frame_bytes, run_class, (size_t)(came - at));
  return list;
}

static long whole_frames(VALUE bytes, long lanes) {
  StringValue(bytes);
  long length = RSTRING_LEN(bytes);
  if (lanes < 1 || length % (lanes * 3) != 0) rb_raise(rb_eArgError, "%ld bytes are not whole frames of %ld lanes", length, lanes);
  return length / (lanes * 3);
}

/* integers(bytes, lanes) -> String: big-endian 24-bit frames as 32-bit integers of this machine, one lane after the other. */
static VALUE integers(VALUE self, VALUE bytes, VALUE lanes_value) {
  long lanes = NUM2LONG(lanes_value), frames = whole_frames(bytes, lanes);
  VALUE out = rb_str_new(NULL, frames * lanes * 4);
  const uint8_t *from = (const uint8_t *)RSTRING_PTR(bytes);
  char *to = RSTRING_PTR(out);
  for (long lane = 0; lane < lanes; lane++) {
    const uint8_t *at = from + lane * 3;
    for (long frame = 0; frame < frames; frame++, at += lanes * 3, to += 4) {
      int32_t sample = (int32_t)((uint32_t)at[0] << 24 | (uint32_t)at[1] << 16 | (uint32_t)at[2] << 8) >> 8;
      memcpy(to, &sample, 4);
    }
  }
  RB_GC_GUARD(bytes);
  return out;
}

/* planes(bytes, lanes) -> String: big-endian 24-bit frames as little-endian samples, one lane after the other. */
static VALUE planes(VALUE self, VALUE bytes, VALUE lanes_value) {
  long lanes = NUM2LONG(lanes_value), frames = whole_frames(bytes, lanes);
  VALUE out = rb_str_new(NULL, frames * lanes * 3);
  const uint8_t *from = (const uint8_t *)RSTRING_PTR(bytes);
  uint8_t *to = (uint8_t *)RSTRING_PTR(out);
  for (long lane = 0; lane < lanes; lane++) {
    const uint8_t *at = from + lane * 3;
    for (long frame = 0; frame < frames; frame++, at += lanes * 3, to += 3) {
      to[0] = at[2];
      to[1] = at[1];
      to[2] = at[0];
    }
  }
  RB_GC_GUARD(bytes);
  return out;
}

void Init_packets(void) {
  VALUE module = rb_define_module_under(rb_define_module("Loomshuttle"), "Packets");
  rb_define_singleton_method(module, "runs", runs, 3);
  rb_define_singleton_method(module, "receive", receive, 4);
  rb_define_singleton_method(module, "integers", integers, 2);
  rb_define_singleton_method(module, "planes", planes, 2);
}
