package weftex.store.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.Test;
import weftex.store.Refusal;

class OneBehindTest {

  @Test
  void halvesRunInOrderAndTheNextStepWaitsForTheOneBefore() throws Exception {
    List<Integer> ran = new ArrayList<>();
    try (OneBehind behind = new OneBehind()) {
      for (int i = 0; i < 100; i++) {
        int step = i;
        behind.then(() -> ran.add(step));
        // When a half is handed over, all before it are done.
        assertThat(ran.size()).isGreaterThanOrEqualTo(i);
      }
      behind.await();
    }
    assertThat(ran).hasSize(100).isSorted();
  }

  @Test
  void theFirstHalfGoesOnWhileTheSecondRuns() throws Exception {
    CountDownLatch handedOver = new CountDownLatch(1);
    try (OneBehind behind = new OneBehind()) {
      behind.then(
          () -> {
            try {
              handedOver.await();
            } catch (InterruptedException e) {
              throw new IOException(e);
            }
          });
      handedOver.countDown();
      behind.await();
    }
  }

  @Test
  void whatAHalfThrowsComesOutOfTheNextStep() throws Exception {
    try (OneBehind behind = new OneBehind()) {
      behind.then(
          () -> {
            throw new IOException("the disk is full");
          });
      assertThatThrownBy(() -> behind.then(() -> {}))
          .isInstanceOf(IOException.class)
          .hasMessage("the disk is full");
      behind.then(
          () -> {
            throw new Refusal(Refusal.Kind.PROTECTED, "no", "try");
          });
      assertThatThrownBy(behind::await).isInstanceOf(Refusal.class);
      behind.then(
          () -> {
            throw new IllegalStateException("a bug");
          });
      assertThatThrownBy(behind::await).isInstanceOf(IllegalStateException.class);
    }
  }
}
