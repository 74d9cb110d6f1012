package hardproof.proving.applications;

import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * Which object is meant: two of one name in two namespaces, or of two API groups, are two objects.
 *
 * @param group of the API; empty for the core
 * @param namespace empty for what belongs to the whole cluster
 */
record ObjectKey(String group, String kind, String namespace, String name) {
  static final String DEFAULT_NAMESPACE = "default";
  private static final String APPS = "apps";
  private static final String RIGHTS = "rbac.authorization.k8s.io";
  private static final String NETWORK = "networking.k8s.io";

  /** Where kinds live that a bundle may name without its group, or by an older one. */
  private static final Map<String, String> USUAL = Map.ofEntries(
      Map.entry("Deployment", APPS),
      Map.entry("StatefulSet", APPS),
      Map.entry("DaemonSet", APPS),
      Map.entry("ReplicaSet", APPS),
      Map.entry("Job", "batch"),
      Map.entry("CronJob", "batch"),
      Map.entry("Ingress", NETWORK),
      Map.entry("Role", RIGHTS),
      Map.entry("ClusterRole", RIGHTS),
      Map.entry("RoleBinding", RIGHTS),
      Map.entry("ClusterRoleBinding", RIGHTS),
      Map.entry("HorizontalPodAutoscaler", "autoscaling"));

  private static final Set<String> OF_THE_CLUSTER = Set.of(
      "Namespace",
      "Node",
      "PersistentVolume",
      "StorageClass",
      "ClusterRole",
      "ClusterRoleBinding",
      "IngressClass",
      "GatewayClass",
      "PriorityClass",
      "RuntimeClass",
      "CSIDriver",
      "CSINode",
      "VolumeAttachment",
      "VolumeSnapshotClass",
      "VolumeSnapshotContent",
      "CustomResourceDefinition",
      "APIService",
      "MutatingWebhookConfiguration",
      "ValidatingWebhookConfiguration",
      "ValidatingAdmissionPolicy",
      "ValidatingAdmissionPolicyBinding",
      "CertificateSigningRequest",
      "ClusterIssuer",
      "FlowSchema",
      "PriorityLevelConfiguration");

  /**
   * @param apiVersion as {@code apps/v1}; null when not told
   * @param namespace null for the usual one
   */
  static ObjectKey of(String apiVersion, String kind, String namespace, String name) {
    return new ObjectKey(
        group(apiVersion, kind),
        kind,
        OF_THE_CLUSTER.contains(kind)
            ? ""
            : namespace == null || namespace.isEmpty() ? DEFAULT_NAMESPACE : namespace,
        name);
  }

  private static String group(String apiVersion, String kind) {
    int slash = apiVersion == null ? -1 : apiVersion.indexOf('/');
    String group = slash < 0 ? "" : apiVersion.substring(0, slash);
    boolean older = group.equals("extensions");
    return apiVersion == null || older ? USUAL.getOrDefault(kind, older ? group : "") : group;
  }

  /** In words, with the namespace where it is not the usual one. */
  String words() {
    String of = switch (kind) {
      case "PersistentVolumeClaim" -> "claim";
      case "ConfigMap" -> "config map";
      case "ServiceAccount" -> "service account";
      case "StatefulSet" -> "stateful set";
      case "RoleBinding" -> "role binding";
      case "ClusterRole" -> "cluster role";
      case "ClusterRoleBinding" -> "cluster role binding";
      default -> kind.toLowerCase(Locale.ROOT);
    };
    boolean usual = namespace.isEmpty() || namespace.equals(DEFAULT_NAMESPACE);
    return of + " " + name + (usual ? "" : " in " + namespace);
  }

  boolean is(String groupWanted, String kindWanted) {
    return group.equals(groupWanted) && kind.equals(kindWanted);
  }
}
