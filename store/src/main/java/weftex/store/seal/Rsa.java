package weftex.store.seal;

import com.exceptionfactory.jagged.FileKey;
import com.exceptionfactory.jagged.RecipientStanzaReader;
import com.exceptionfactory.jagged.RecipientStanzaWriter;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.Key;
import java.security.PrivateKey;
import java.security.spec.MGF1ParameterSpec;
import java.util.List;
import javax.crypto.Cipher;
import javax.crypto.spec.OAEPParameterSpec;
import javax.crypto.spec.PSource;
import weftex.store.sshkey.SshKey;

/** Stanzas for RSA keys of SSH, {@code ssh-rsa} of the age format: OAEP (RFC 8017) by SHA-256. */
final class Rsa {
  private static final String TYPE = SshKey.RSA;
  private static final OAEPParameterSpec OAEP =
      new OAEPParameterSpec(
          "SHA-256",
          "MGF1",
          MGF1ParameterSpec.SHA256,
          new PSource.PSpecified(
              "age-encryption.org/v1/ssh-rsa".getBytes(StandardCharsets.US_ASCII)));

  private Rsa() {}

  static RecipientStanzaWriter writer(SshKey receiver) throws GeneralSecurityException {
    String tag = FileKeyWrap.tag(receiver.blob());
    return fileKey ->
        List.of(
            new WrapStanza(
                TYPE,
                List.of(tag),
                cipher(Cipher.ENCRYPT_MODE, receiver.key()).doFinal(fileKey.getEncoded())));
  }

  static RecipientStanzaReader reader(SshKey own, PrivateKey key) {
    return stanzas ->
        FileKeyWrap.first(
            stanzas,
            TYPE,
            FileKeyWrap.tag(own.blob()),
            stanza -> new FileKey(cipher(Cipher.DECRYPT_MODE, key).doFinal(stanza.getBody())));
  }

  private static Cipher cipher(int mode, Key key) throws GeneralSecurityException {
    Cipher cipher = Cipher.getInstance("RSA/ECB/OAEPPadding");
    cipher.init(mode, key, OAEP);
    return cipher;
  }
}
