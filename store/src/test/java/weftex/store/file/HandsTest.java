package weftex.store.file;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class HandsTest {
  private final AtomicInteger made = new AtomicInteger();
  private final Set<Integer> closed = Collections.synchronizedSet(new HashSet<>());

  /** A hand that tells by which number it was made, and closed. */
  private final class Hand implements AutoCloseable {
    private final int number = made.getAndIncrement();

    @Override
    public void close() {
      closed.add(number);
    }
  }

  private Optional<Hand> another() {
    return Optional.of(new Hand());
  }

  private static List<Integer> things(int count) {
    return IntStream.range(0, count).boxed().toList();
  }

  private static boolean awaits(CountDownLatch latch) throws IOException {
    try {
      return latch.await(10, TimeUnit.SECONDS);
    } catch (InterruptedException e) {
      throw new IOException(e);
    }
  }

  @Test
  void eachIsDoneOnceBySeveralAtOnce() throws Exception {
    CountDownLatch together = new CountDownLatch(4);
    Set<Integer> hands = Collections.synchronizedSet(new HashSet<>());
    List<Integer> done = Collections.synchronizedList(new ArrayList<>());
    try (Hands<Hand> four = new Hands<>(new Hand(), 100, this::another)) {
      four.each(
          things(100),
          (thing, hand) -> {
            if (hands.add(hand.number)) {
              together.countDown();
              // Nobody goes on before all four are at work.
              assertThat(awaits(together)).isTrue();
            }
            done.add(thing);
          });
    }
    assertThat(done).containsExactlyInAnyOrderElementsOf(things(100));
    assertThat(hands).containsExactlyInAnyOrder(0, 1, 2, 3);
    // The first is the caller's.
    assertThat(closed).containsExactlyInAnyOrder(1, 2, 3);
  }

  @Test
  void aFewThingsAndALineThatAllowsNoMoreAreDoneOneAfterTheOther() throws Exception {
    List<Integer> done = new ArrayList<>();
    try (Hands<Hand> one = new Hands<>(new Hand(), 7, this::another)) {
      one.each(things(7), (thing, hand) -> done.add(thing));
    }
    try (Hands<Hand> one = new Hands<>(new Hand(), 100, Optional::empty)) {
      one.each(things(7), (thing, hand) -> done.add(thing));
    }
    assertThat(done).containsExactly(0, 1, 2, 3, 4, 5, 6, 0, 1, 2, 3, 4, 5, 6);
  }

  @Test
  void afterAFailureNothingIsBegunAndNothingIsUnderWay() throws Exception {
    AtomicInteger begun = new AtomicInteger();
    AtomicInteger under = new AtomicInteger();
    try (Hands<Hand> four = new Hands<>(new Hand(), 1000, this::another)) {
      assertThatThrownBy(
              () ->
                  four.each(
                      things(1000),
                      (thing, hand) -> {
                        begun.incrementAndGet();
                        under.incrementAndGet();
                        try {
                          if (thing == 10) {
                            throw new IOException("the disk is full");
                          }
                          TimeUnit.MILLISECONDS.sleep(5);
                        } catch (InterruptedException e) {
                          throw new IOException(e);
                        } finally {
                          under.decrementAndGet();
                        }
                      }))
          .isInstanceOf(IOException.class)
          .hasMessage("the disk is full");
      assertThat(under).hasValue(0);
      assertThat(begun).hasValueLessThan(50);
    }
  }
}
