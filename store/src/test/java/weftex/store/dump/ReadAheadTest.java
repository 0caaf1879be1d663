package weftex.store.dump;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import weftex.store.Refusal;

class ReadAheadTest {
  @Test
  void allComeInTheirOrder() throws Exception {
    Iterator<String> rows = List.of("a", "b", "c").iterator();
    try (ReadAhead<String> ahead =
        new ReadAhead<>(
            () -> rows.hasNext() ? Optional.of(rows.next()) : Optional.empty(), String::length)) {
      assertThat(ahead.next()).contains("a");
      assertThat(ahead.next()).contains("b");
      assertThat(ahead.next()).contains("c");
      assertThat(ahead.next()).isEmpty();
      assertThat(ahead.next()).isEmpty();
    }
  }

  @Test
  void oneIsReadWhileTheOneBeforeItIsUsedAndNoMore() throws Exception {
    AtomicInteger read = new AtomicInteger();
    CountDownLatch second = new CountDownLatch(2);
    try (ReadAhead<Integer> ahead =
        new ReadAhead<>(
            () -> {
              second.countDown();
              return Optional.of(read.incrementAndGet());
            },
            number -> 1)) {
      assertThat(ahead.next()).contains(1);
      assertThat(second.await(10, TimeUnit.SECONDS)).isTrue();
      assertThat(ahead.next()).contains(2);
      assertThat(read.get()).isLessThanOrEqualTo(3);
    }
  }

  @Test
  void nothingIsReadWhileALongOneIsUsed() throws Exception {
    AtomicInteger read = new AtomicInteger();
    try (ReadAhead<Integer> ahead =
        new ReadAhead<>(
            () -> read.get() == 3 ? Optional.empty() : Optional.of(read.incrementAndGet()),
            number -> 1 << 23)) {
      for (int i = 1; i <= 3; i++) {
        assertThat(ahead.next()).contains(i);
        assertThat(read.get()).isEqualTo(i);
      }
      assertThat(ahead.next()).isEmpty();
      assertThat(ahead.next()).isEmpty();
    }
  }

  @Test
  void whatGoesWrongWhileReadingIsSaidWhereItIsAskedFor() throws Exception {
    try (ReadAhead<String> ahead =
        new ReadAhead<>(
            () -> {
              throw new IOException("the disk is gone");
            },
            String::length)) {
      assertThatThrownBy(ahead::next)
          .isInstanceOf(IOException.class)
          .hasMessage("the disk is gone");
    }
    Refusal refusal = new Refusal(Refusal.Kind.PROTECTED, "No.", "Do else.");
    try (ReadAhead<String> ahead =
        new ReadAhead<>(
            () -> {
              throw refusal;
            },
            String::length)) {
      assertThatThrownBy(ahead::next).isSameAs(refusal);
    }
    OutOfMemoryError memory = new OutOfMemoryError("heap");
    try (ReadAhead<String> ahead =
        new ReadAhead<>(
            () -> {
              throw memory;
            },
            String::length)) {
      assertThatThrownBy(ahead::next).isSameAs(memory);
    }
    try (ReadAhead<String> ahead =
        new ReadAhead<>(
            () -> {
              throw new IllegalStateException("a fault");
            },
            String::length)) {
      assertThatThrownBy(ahead::next)
          .isInstanceOf(IOException.class)
          .hasRootCauseMessage("a fault");
    }
  }
}
