using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace Uncial.Web.Accounts;

/// <summary>
/// The file that protects the keys of cookies and forms. It lies in the data folder, never in the database, a backup or an export: what is
/// restored elsewhere cannot make a cookie for this shop.
/// </summary>
internal static class KeyFile
{
    private const int Bits = 3072;

    /// <summary>Reads the file, or makes it where there is none; readable by its owner only.</summary>
    public static X509Certificate2 ReadOrMake(string path)
    {
        if (!File.Exists(path))
        {
            using var key = RSA.Create(Bits);
            var request = new CertificateRequest("CN=Uncial keys", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1);
            using var made = request.CreateSelfSigned(DateTimeOffset.UnixEpoch, new(9999, 1, 1, 0, 0, 0, TimeSpan.Zero));
            var part = path + ".part";
            var options = new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write };
            if (!OperatingSystem.IsWindows())
                options.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
            using (var file = new FileStream(part, options))
                file.Write(made.Export(X509ContentType.Pfx));
            File.Move(part, path, overwrite: false);
        }
        return X509CertificateLoader.LoadPkcs12FromFile(path, null);
    }
}
